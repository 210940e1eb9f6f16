import { basename, dirname } from "node:path";
import multer from "multer";
import { MOST_LOG_BYTES } from "#contract";
import { tempFile } from "../temp.ts";

const MOST_PHOTO_BYTES = 25 * 1024 * 1024;

/** Into a file that is there already, so that it keeps its rights. */
const storage = multer.diskStorage({
  destination(_request, file, done) {
    const path = tempFile();
    Object.assign(file, { given: basename(path) });
    done(null, dirname(path));
  },
  filename: (_request, file, done) => done(null, String((file as { given?: string }).given)),
});

const upload = (most: number) =>
  multer({ storage, limits: { fileSize: most, files: 1, fieldSize: 1024 * 1024 }, defParamCharset: "utf8" });

export const logUpload = upload(MOST_LOG_BYTES);
export const photoUpload = upload(MOST_PHOTO_BYTES);
