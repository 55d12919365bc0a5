import wasm from "zxing-wasm/reader/zxing_reader.wasm?url";

/** The first bar or QR code on a picture; undefined where there is none. What reads it is fetched when first asked. */
export async function readCode(picture: ImageData | Blob): Promise<string | undefined> {
  const { prepareZXingModule, readBarcodes } = await import("zxing-wasm/reader");
  prepareZXingModule({ overrides: { locateFile: () => wasm } });
  const [found] = await readBarcodes(picture, { maxNumberOfSymbols: 1 });
  return found?.isValid ? found.text.trim() : undefined;
}
