import { Select as Chooser, type RefSelectProps, type SelectProps } from "antd";
import type { BaseOptionType, DefaultOptionType } from "antd/es/select";
import { type KeyboardEvent, type Ref, useState } from "react";

/**
 * Chooses from a list that opens while somebody types. Enter takes what is marked; Tab takes it too and goes on to the
 * next field, as from any other. Where several may be chosen, Tab only goes on.
 */
export function Select<Value, Option extends BaseOptionType | DefaultOptionType = DefaultOptionType>({
  open,
  onOpenChange,
  onSelect,
  mode,
  ...props
}: SelectProps<Value, Option> & { ref?: Ref<RefSelectProps> }) {
  const [opened, setOpened] = useState(false);
  const turn = (wanted: boolean) => {
    setOpened(wanted);
    onOpenChange?.(wanted);
  };
  return (
    <Chooser<Value, Option>
      {...props}
      mode={mode}
      open={open ?? opened}
      onOpenChange={turn}
      onSelect={(value, option) => {
        // By itself the list closes a moment later, and takes for its own what a quick hand types until then.
        if (mode === undefined) {
          turn(false);
        }
        onSelect?.(value, option);
      }}
      onInputKeyDown={(event) => event.key === "Tab" && goOn(event, mode !== undefined)}
    />
  );
}

/** Lets Tab leave an open list, which would keep it for choosing alone. */
function goOn(event: KeyboardEvent, several: boolean) {
  if (several) {
    event.stopPropagation();
  } else {
    event.preventDefault = () => undefined;
  }
}
