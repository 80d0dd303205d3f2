import { type ReactNode, useRef } from "react";
import { Button, type ButtonProps } from "./Button.tsx";

/** Opens a file from the disk, or several. */
export function FileButton({
  accept,
  label,
  onFile,
  several = false,
  children,
  ...rest
}: {
  accept: string;
  /** For those who listen; the words on the button else. */
  label?: string;
  /** Is given each file that was chosen. */
  onFile: (file: File) => void;
  /** More than one may be chosen at once. */
  several?: boolean;
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
        multiple={several}
        hidden
        onChange={(event) => {
          for (const file of event.target.files ?? []) onFile(file);
          // the same file may be chosen again
          event.target.value = "";
        }}
      />
    </>
  );
}
