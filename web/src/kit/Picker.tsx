import type { Tied } from "./Field";
import { Select } from "./Select";

/** Chooses one of many records by any words of it; the server looks them up while somebody types. */
export function Picker<Value extends number>({
  label,
  tied,
  value,
  options,
  search,
  onChange,
  placeholder,
  width,
}: {
  /** Its name, where no label stands above it. */
  label?: string;
  tied?: Tied;
  value: Value | undefined;
  options: { value: Value; label: string }[];
  search: (words: string) => void;
  onChange: (value: Value, label: string) => void;
  placeholder: string;
  /** Of the list that opens, in pixels. */
  width?: number;
}) {
  return (
    <Select<Value, { value: Value; label: string }>
      {...tied}
      aria-label={label}
      showSearch={{ filterOption: false, onSearch: search }}
      value={value}
      placeholder={placeholder}
      popupMatchSelectWidth={width ?? true}
      onChange={(chosen, option) =>
        onChange(chosen, Array.isArray(option) ? "" : String(option?.label ?? ""))
      }
      options={options}
    />
  );
}
