import { getNonce } from "get-nonce";
import { ChevronDown } from "lucide-react";
import { Select } from "radix-ui";
import { useCoarsePointer } from "./useMedia.ts";

export interface Option<T extends string | null> {
  value: T;
  text: string;
  /** Shown behind the text, quietly. */
  hint?: string;
}

interface Props<T extends string | null> {
  /** Identifier for a label that stands elsewhere; else `label` names it. */
  id?: string;
  label?: string;
  value: T;
  options: readonly Option<T>[];
  onChange: (value: T) => void;
  size?: "normal" | "small";
  className?: string;
}

const FIELD =
  "inline-flex items-center justify-between gap-2 rounded-[3px] border border-ink bg-sheet px-2 text-left text-ink max-sm:min-h-11";
const SIZES = { normal: "min-h-7.5", small: "min-h-6" };

/** Stands for "none of them" where texts are wanted. */
const NONE = "none of them";
const textOf = (value: string | null) => value ?? NONE;

/** One of some, in a list that opens; the device's own list where one points with a finger. */
export function Choice<T extends string | null>(props: Props<T>) {
  const coarse = useCoarsePointer();
  return coarse ? <NativeChoice {...props} /> : <ListChoice {...props} />;
}

function NativeChoice<T extends string | null>({
  id,
  label,
  value,
  options,
  onChange,
  size = "normal",
  className = "",
}: Props<T>) {
  return (
    <select
      {...(id ? { id } : {})}
      {...(label ? { "aria-label": label } : {})}
      className={`${FIELD} ${SIZES[size]} ${className}`}
      value={textOf(value)}
      onChange={(event) => {
        const chosen = options.find((option) => textOf(option.value) === event.target.value);
        if (chosen) onChange(chosen.value);
      }}
    >
      {options.map((option) => (
        <option key={textOf(option.value)} value={textOf(option.value)}>
          {option.text} {option.hint}
        </option>
      ))}
    </select>
  );
}

function ListChoice<T extends string | null>({
  id,
  label,
  value,
  options,
  onChange,
  size = "normal",
  className = "",
}: Props<T>) {
  return (
    <Select.Root
      value={textOf(value)}
      onValueChange={(text) => {
        const chosen = options.find((option) => textOf(option.value) === text);
        if (chosen) onChange(chosen.value);
      }}
    >
      <Select.Trigger
        {...(id ? { id } : {})}
        {...(label ? { "aria-label": label } : {})}
        className={`${FIELD} ${SIZES[size]} ${className}`}
      >
        <span className="truncate">
          <Select.Value />
        </span>
        <Select.Icon>
          <ChevronDown size={14} aria-hidden="true" />
        </Select.Icon>
      </Select.Trigger>
      <Select.Portal>
        <Select.Content
          position="popper"
          sideOffset={2}
          collisionPadding={8}
          className="z-50 max-h-(--radix-select-content-available-height) min-w-(--radix-select-trigger-width) overflow-hidden rounded-[3px] border border-ink bg-sheet text-ink"
        >
          <Select.Viewport nonce={getNonce()}>
            {options.map((option) => (
              <Select.Item
                key={textOf(option.value)}
                value={textOf(option.value)}
                className="cursor-pointer px-2 py-1 outline-none data-[highlighted]:bg-copper-wash data-[highlighted]:shadow-[inset_3px_0_0_var(--copper)] data-[state=checked]:font-semibold"
              >
                <Select.ItemText>{option.text}</Select.ItemText>
                {option.hint && <span className="text-small text-ink-2"> {option.hint}</span>}
              </Select.Item>
            ))}
          </Select.Viewport>
        </Select.Content>
      </Select.Portal>
    </Select.Root>
  );
}
