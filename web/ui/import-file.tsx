import { useRef, useState } from "react";
import { Problem, type ProblemDetail } from "#core";
import { Button } from "./button.tsx";
import { FileInput } from "./file-input.tsx";
import { Note } from "./note.tsx";

/** A button that reads a text file; what can't be read is said beneath, with what to do. */
export function ImportFile({
  label,
  accept,
  button = "Import",
  kept = "",
  onText,
}: {
  label: string;
  accept: string;
  button?: string;
  /** What is as it was when a file is refused. */
  kept?: string;
  /** May throw a Problem. */
  onText: (name: string, text: string) => void;
}) {
  const input = useRef<HTMLInputElement>(null);
  const [problem, setProblem] = useState<ProblemDetail | null>(null);
  return (
    <>
      <Button onClick={() => input.current?.click()}>{button}</Button>
      <FileInput
        ref={input}
        accept={accept}
        label={label}
        onFile={(file) =>
          void file.text().then((text) => {
            try {
              setProblem(null);
              onText(file.name, text);
            } catch (error) {
              if (!(error instanceof Problem)) throw error;
              setProblem({ ...error.detail(), where: file.name });
            }
          })
        }
      />
      {problem && (
        <div className="w-full">
          <Note kind="fault" live title={`${problem.where}: ${problem.what}`}>
            {problem.remedy} {kept}
          </Note>
        </div>
      )}
    </>
  );
}
