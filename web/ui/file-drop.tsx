import { type ReactNode, useEffect, useRef } from "react";
import { useDropzone } from "react-dropzone";
import { takeDropped } from "../app/dropped.ts";

interface FileDropProps {
  /** What the file dialog offers first; what is dropped is looked at whatever it is called. */
  accept?: string;
  multiple?: boolean;
  /** Whether what is dropped elsewhere on the page comes here too. */
  anywhere?: boolean;
  className?: string;
  onFiles: (files: readonly File[]) => void;
  children: ReactNode;
}

/** A place to drop files on, or to choose them by mouse or keyboard. */
export function FileDrop({
  accept,
  multiple = false,
  anywhere = false,
  className = "",
  onFiles,
  children,
}: FileDropProps) {
  const latest = useRef(onFiles);
  latest.current = onFiles;
  useEffect(() => (anywhere ? takeDropped((files) => latest.current(files)) : undefined), [anywhere]);
  const { getRootProps, getInputProps, isDragActive } = useDropzone({
    multiple,
    // A label opens the dialog by itself, and the input takes the keys.
    noClick: true,
    noKeyboard: true,
    onDrop: (files, refused) => onFiles([...files, ...refused.map(({ file }) => file)]),
  });
  return (
    <label
      {...getRootProps({ role: undefined, tabIndex: undefined })}
      className={`flex cursor-pointer flex-col items-center justify-center rounded-xl border-dashed text-center focus-within:outline-3 focus-within:outline-ice hover:border-ice ${isDragActive ? "border-ice bg-frost" : "border-edge bg-sheet"} ${className}`}
    >
      {children}
      <input {...getInputProps({ accept, tabIndex: 0, style: {}, className: "sr-only" })} />
    </label>
  );
}
