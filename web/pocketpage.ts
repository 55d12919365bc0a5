import type { Plugin } from "vite";

const DAY = "/src/field/PocketDay.tsx";

/**
 * The program's page once more for a technician's day: it names all that the day is made of, so that a phone fetches it beside what
 * every page needs and not after it.
 */
export function pocketPage(): Plugin {
  return {
    name: "pocket-page",
    enforce: "post",
    generateBundle(_, bundle) {
      const page = bundle["index.html"];
      const day = Object.values(bundle).find(
        (made) => made.type === "chunk" && made.facadeModuleId?.endsWith(DAY),
      );
      if (page?.type !== "asset" || day?.type !== "chunk") {
        return this.error(`There is no page to put ${DAY} on`);
      }
      const html = String(page.source);
      const needed = new Set<string>();
      const need = (name: string) => {
        const made = bundle[name];
        if (made?.type === "chunk" && !needed.has(name)) {
          needed.add(name);
          made.imports.forEach(need);
          for (const style of made.viteMetadata?.importedCss ?? []) {
            needed.add(style);
          }
        }
      };
      need(day.fileName);
      const links = [...needed]
        .filter((name) => !html.includes(name))
        .map((name) =>
          name.endsWith(".css")
            ? `<link rel="preload" as="style" crossorigin href="/${name}">`
            : `<link rel="modulepreload" crossorigin href="/${name}">`,
        );
      this.emitFile({
        type: "asset",
        fileName: "pocket.html",
        source: html.replace("</head>", `${links.join("\n    ")}</head>`),
      });
    },
  };
}
