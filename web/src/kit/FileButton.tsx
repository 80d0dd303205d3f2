import { type ReactNode, useRef } from "react";
import { Button, type ButtonProps } from "./Button.tsx";

/** Opens a file from the disk. */
export function FileButton({
  accept,
  label,
  onFile,
  children,
  ...rest
}: {
  accept: string;
  /** For those who listen; the words on the button else. */
  label?: string;
  onFile: (file: File) => void;
  children: ReactNode;
} & Omit<ButtonProps, "onClick">) {
  const input = useRef<HTMLInputElement>(null);
  return (
    <>
      <Button {...rest} {...(label ? { "aria-label": label } : {})} onClick={() => input.current?.click()}>
        {children}
      </Button>
      <input
        ref={input}
        type="file"
        accept={accept}
        hidden
        onChange={(event) => {
          const file = event.target.files?.[0];
          if (file) onFile(file);
          // the same file may be chosen again
          event.target.value = "";
        }}
      />
    </>
  );
}
