import type { ThemeConfig } from "antd";

/** The one place where Ant Design gets its look: paper and ink, one copper accent. */
export const theme: ThemeConfig = {
  cssVar: { key: "pragmata" },
  token: {
    colorPrimary: "#17251f",
    colorInfo: "#44574e",
    colorSuccess: "#44574e",
    colorWarning: "#a64b17",
    colorError: "#a64b17",
    colorText: "#17251f",
    colorTextSecondary: "#55615a",
    colorTextPlaceholder: "#6b756f",
    colorBgBase: "#fcfbf7",
    colorBgMask: "rgba(23, 37, 31, 0.28)",
    colorBgLayout: "#f5f2ea",
    colorBorder: "#c9c2b0",
    colorBorderSecondary: "#dcd6c8",
    borderRadius: 3,
    fontFamily: "'Source Sans 3 Variable', sans-serif",
    fontSize: 15,
    controlHeight: 30,
    lineHeight: 1.4,
    wireframe: false,
    motionDurationMid: "0.1s",
    motionDurationSlow: "0.12s",
    boxShadow: "0 2px 10px rgba(23, 37, 31, 0.16)",
    boxShadowSecondary: "0 2px 10px rgba(23, 37, 31, 0.16)",
  },
  components: {
    Button: { primaryShadow: "none", defaultShadow: "none", fontWeight: 600, paddingInline: 13 },
    Input: { activeShadow: "0 0 0 2px #dcd6c8", paddingInline: 8 },
    Select: { optionSelectedBg: "#e9ede4", optionActiveBg: "#f5f2ea", activeOutlineColor: "#dcd6c8" },
    Modal: { titleFontSize: 19 },
  },
};
