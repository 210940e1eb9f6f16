import { Problem } from "#core";

const MOST_PIXELS = 120_000_000;
/** What cameras and screens write; AVIF is told as the container it lies in. A drawing with script and links inside is none. */
const FORMATS: ReadonlySet<string> = new Set(["jpeg", "png", "webp", "heif"]);

/**
 * A picture upright, at most `longestSide` pixels long, as JPEG, without its place and camera data.
 * @param otherwise what is as it was, for the message
 * @throws Problem `not-a-picture`
 */
export async function pictureOf(
  bytes: Uint8Array,
  { longestSide, quality, otherwise }: { longestSide: number; quality: number; otherwise: string },
): Promise<{ data: Buffer; width: number; height: number }> {
  // Loading it takes a sixth of a second, which a start without pictures need not wait for.
  const { default: sharp } = await import("sharp");
  try {
    const picture = sharp(bytes, { limitInputPixels: MOST_PIXELS });
    const { format } = await picture.metadata();
    if (!FORMATS.has(format)) throw new TypeError(`A ${format} is no photo.`);
    const { data, info } = await picture
      .rotate()
      .resize({ width: longestSide, height: longestSide, fit: "inside", withoutEnlargement: true })
      .jpeg({ quality })
      .toBuffer({ resolveWithObject: true });
    return { data, width: info.width, height: info.height };
  } catch {
    throw new Problem({
      code: "not-a-picture",
      what: `This file is not a picture that can be read; ${otherwise}.`,
      remedy: "Choose a JPEG, PNG, WebP or AVIF picture.",
    });
  }
}
