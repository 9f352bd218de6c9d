import { useRef } from "react";
import type { BuildDocument } from "../../api/types";
import { Button } from "../../ui/Button";

interface Props {
  onRead: (document: BuildDocument) => void;
  onTrouble: (what: string) => void;
}

const LARGEST = 1_000_000;

/** Begin from a build document on disk. The server says what is wrong with it, if anything. */
export function ImportBuild({ onRead, onTrouble }: Props) {
  const input = useRef<HTMLInputElement>(null);
  const read = async (file: File) => {
    if (file.size > LARGEST) {
      onTrouble(`${file.name} is too long for a build document.`);
      return;
    }
    try {
      onRead(JSON.parse(await file.text()) as BuildDocument);
    } catch {
      onTrouble(`${file.name} is not JSON.`);
    }
  };
  return (
    <>
      <Button onClick={() => input.current?.click()}>Open a build file</Button>
      <input
        ref={input}
        type="file"
        accept="application/json,.json"
        aria-label="Build file"
        className="hidden"
        onChange={(event) => {
          const file = event.target.files?.[0];
          event.target.value = "";
          if (file) void read(file);
        }}
      />
    </>
  );
}
