import type { ComponentType } from "react";

/** Fetches a page and, beside it, the look of its controls, which a technician's stops do not wait for. */
export const withLook =
  <Props extends object>(load: () => Promise<{ default: ComponentType<Props> }>) =>
  async () => {
    const [{ default: Page }, { Look }] = await Promise.all([load(), import("./Look")]);
    return {
      default: (props: Props) => (
        <Look>
          <Page {...props} />
        </Look>
      ),
    };
  };
