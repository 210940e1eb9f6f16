import { mkdirSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import multer from "multer";
import { MOST_LOG_BYTES } from "#contract";

const MOST_PHOTO_BYTES = 25 * 1024 * 1024;

const folder = join(tmpdir(), "algidus-uploads");
mkdirSync(folder, { recursive: true });

const upload = (most: number) =>
  multer({ dest: folder, limits: { fileSize: most, files: 1, fieldSize: 1024 * 1024 }, defParamCharset: "utf8" });

export const logUpload = upload(MOST_LOG_BYTES);
export const photoUpload = upload(MOST_PHOTO_BYTES);
