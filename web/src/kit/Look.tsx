import { ConfigProvider } from "antd";
import type { ReactNode } from "react";
import { theme } from "./theme";

/** What is drawn in it looks as {@link theme} says. */
export function Look({ children }: { children: ReactNode }) {
  return (
    <ConfigProvider theme={theme} button={{ autoInsertSpace: false }}>
      {children}
    </ConfigProvider>
  );
}
