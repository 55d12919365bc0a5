import type { ThemeConfig } from "antd";
import { colours, fonts, targets, type } from "./tokens";

/** Ant Design as paper and ink with one copper accent. */
export const theme: ThemeConfig = {
  cssVar: { key: "pragmata" },
  token: {
    colorPrimary: colours.ink,
    colorInfo: colours.done,
    colorSuccess: colours.done,
    colorWarning: colours.copper,
    colorError: colours.copper,
    colorText: colours.ink,
    colorTextSecondary: colours.softInk,
    colorTextPlaceholder: "#6b756f",
    colorBgBase: colours.sheet,
    colorBgMask: "rgba(23, 37, 31, 0.28)",
    colorBgLayout: colours.paper,
    colorBorder: colours.mark,
    colorBorderSecondary: colours.rule,
    borderRadius: 3,
    fontFamily: fonts.text,
    fontSize: type.text,
    fontSizeSM: type.small,
    fontSizeLG: type.large,
    controlHeight: 30,
    controlHeightSM: targets.desk,
    lineHeight: 1.4,
    wireframe: false,
    motionDurationMid: "0.1s",
    motionDurationSlow: "0.12s",
    boxShadow: "0 2px 10px rgba(23, 37, 31, 0.16)",
    boxShadowSecondary: "0 2px 10px rgba(23, 37, 31, 0.16)",
  },
  components: {
    Button: { primaryShadow: "none", defaultShadow: "none", fontWeight: 600, paddingInline: 13 },
    Input: { activeShadow: `0 0 0 2px ${colours.rule}`, paddingInline: 8 },
    Select: {
      optionSelectedBg: colours.selected,
      optionActiveBg: colours.paper,
      activeOutlineColor: colours.rule,
    },
    Modal: { titleFontSize: type.title },
  },
};
