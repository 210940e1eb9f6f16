import type { Ref } from "react";

/** A file dialog that a button elsewhere opens; the same file may be chosen again. */
export function FileInput({
  ref,
  label,
  accept,
  camera = false,
  onFile,
}: {
  ref: Ref<HTMLInputElement>;
  label: string;
  accept: string;
  /** A phone offers its camera at once. */
  camera?: boolean;
  onFile: (file: File) => void;
}) {
  return (
    <input
      ref={ref}
      type="file"
      accept={accept}
      capture={camera ? "environment" : undefined}
      aria-label={label}
      className="hidden"
      onChange={(event) => {
        const file = event.target.files?.[0];
        event.target.value = "";
        if (file) onFile(file);
      }}
    />
  );
}
