const LONGEST_SIDE = 1280;

/** Larger and finer, a photo of a gate shows little more, and takes twice as long over a poor line. */
const QUALITY = 0.7;

/**
 * The photo as it is sent: upright, no longer than is kept, without where it was taken. What this browser cannot draw
 * goes as it is, and the server says what is wrong with it.
 */
export async function smallPhoto(file: File): Promise<Blob> {
  try {
    const picture = await createImageBitmap(file, { imageOrientation: "from-image" });
    const scale = Math.min(1, LONGEST_SIDE / Math.max(picture.width, picture.height));
    const canvas = new OffscreenCanvas(
      Math.max(1, Math.round(picture.width * scale)),
      Math.max(1, Math.round(picture.height * scale)),
    );
    const pen = canvas.getContext("2d");
    if (!pen) {
      return file;
    }
    pen.fillStyle = "white";
    pen.fillRect(0, 0, canvas.width, canvas.height);
    pen.drawImage(picture, 0, 0, canvas.width, canvas.height);
    picture.close();
    return await canvas.convertToBlob({ type: "image/jpeg", quality: QUALITY });
  } catch {
    return file;
  }
}
