/** The look in one place: Ant Design's theme and every style sheet take their colours and sizes from here. */
export const colours = {
  paper: "#f5f2ea",
  sheet: "#fcfbf7",
  rule: "#dcd6c8",
  hairline: "#ebe6da",
  ink: "#17251f",
  softInk: "#55615a",
  /** For marks and the borders of fields, 3:1 on paper and sheet; too pale for text. */
  mark: "#7f867e",
  done: "#44574e",
  pale: "#cdd6cb",
  selected: "#e9ede4",
  /** What a field that is empty would hold. */
  placeholder: "#6b756f",
  copper: "#a64b17",
  copperGround: "#f6e7db",
  /** Below what lies on the page, and over the page below a window. */
  shade: "rgba(23, 37, 31, 0.18)",
  veil: "rgba(23, 37, 31, 0.28)",
};

/** All sizes of type, in pixels: remarks, text, what is read at arm's length, titles, a phone's title, the name. */
export const type = { small: 13, text: 15, large: 17, title: 20, display: 25, name: 34 };

export const fonts = {
  text: '"Source Sans 3 Variable", sans-serif',
  heading: '"Source Serif 4", serif',
};

/** What a finger needs, and what a mouse does. */
export const targets = { phone: 48, desk: 24 };

const variables = {
  ...colours,
  ...Object.fromEntries(Object.entries(type).map(([name, size]) => [`type-${name}`, `${size}px`])),
  ...Object.fromEntries(Object.entries(fonts).map(([name, font]) => [`font-${name}`, font])),
  ...Object.fromEntries(Object.entries(targets).map(([name, size]) => [`target-${name}`, `${size}px`])),
};

/** Makes the tokens known to the style sheets: softInk as --soft-ink, type.small as --type-small. */
export function layOutTokens() {
  const sheet = new CSSStyleSheet();
  const lines = Object.entries(variables).map(
    ([name, value]) => `--${name.replaceAll(/[A-Z]/g, (letter) => `-${letter.toLowerCase()}`)}: ${value};`,
  );
  sheet.replaceSync(`:root { ${lines.join(" ")} }`);
  document.adoptedStyleSheets.push(sheet);
}
