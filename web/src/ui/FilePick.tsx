import { useRef } from "react";
import { Button } from "./Button";

interface Props {
  /** What the button says, and what kind of file it is for those who don't see it. */
  children: string;
  label: string;
  accept: string;
  disabled?: boolean;
  onFile: (file: File) => void;
}

/** A button that asks for a file. */
export function FilePick({ children, label, accept, disabled, onFile }: Props) {
  const input = useRef<HTMLInputElement>(null);
  return (
    <>
      <Button disabled={disabled} onClick={() => input.current?.click()}>
        {children}
      </Button>
      <input
        ref={input}
        type="file"
        accept={accept}
        aria-label={label}
        className="hidden"
        onChange={(event) => {
          const file = event.target.files?.[0];
          // The same file may be chosen again once it was mended.
          event.target.value = "";
          if (file) onFile(file);
        }}
      />
    </>
  );
}
