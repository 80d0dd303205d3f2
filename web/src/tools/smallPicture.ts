import { MOST_PICTURE } from "@alderman/core";

/** Largest picture file that is opened, bytes. */
const MOST_BYTES = 25_000_000;
/** Longer side that pictures are made small to, pixels; smaller ones are tried when the first is still too much. */
const SIDES = [640, 480, 320, 200];

/**
 * A picture from the disk as a small JPEG, made in the browser.
 *
 * @returns its data address, short enough for the record
 * @throws {Error} with a sentence when the file is too large or no picture
 */
export async function smallPicture(file: File): Promise<string> {
  if (file.size > MOST_BYTES)
    throw new Error(
      `${file.name} has ${Math.round(file.size / 1e6)} MB; a photo may have ${MOST_BYTES / 1e6} MB. Make it smaller first; it was not taken in.`,
    );
  let bitmap: ImageBitmap;
  try {
    // the way up that the camera noted (EXIF)
    bitmap = await createImageBitmap(file, { imageOrientation: "from-image" });
  } catch {
    throw new Error(`${file.name} is no picture that can be opened. Choose a JPEG or PNG. It was not taken in.`);
  }
  try {
    for (const side of SIDES) {
      const picture = drawn(bitmap, side);
      if (picture.length <= MOST_PICTURE) return picture;
    }
  } finally {
    bitmap.close();
  }
  throw new Error(`${file.name} could not be made small enough. It was not taken in.`);
}

function drawn(bitmap: ImageBitmap, side: number): string {
  const scale = Math.min(1, side / Math.max(bitmap.width, bitmap.height));
  const canvas = document.createElement("canvas");
  canvas.width = Math.max(1, Math.round(bitmap.width * scale));
  canvas.height = Math.max(1, Math.round(bitmap.height * scale));
  const context = canvas.getContext("2d");
  if (!context) throw new Error("This browser draws no pictures, so none can be made small.");
  // a transparent picture would turn black as a JPEG
  context.fillStyle = "white";
  context.fillRect(0, 0, canvas.width, canvas.height);
  context.drawImage(bitmap, 0, 0, canvas.width, canvas.height);
  return canvas.toDataURL("image/jpeg", 0.75);
}
