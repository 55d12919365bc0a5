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
    colorTextPlaceholder: colours.placeholder,
    colorBgBase: colours.sheet,
    colorBgMask: colours.veil,
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
    boxShadow: `0 2px 10px ${colours.shade}`,
    boxShadowSecondary: `0 2px 10px ${colours.shade}`,
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
