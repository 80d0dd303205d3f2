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
  const { id, label, value, options, onChange, size = "normal", className = "" } = props;
  const List = useCoarsePointer() ? NativeList : OpeningList;
  return (
    <List
      face={{
        ...(id ? { id } : {}),
        ...(label ? { "aria-label": label } : {}),
        className: `${FIELD} ${SIZES[size]} ${className}`,
      }}
      value={textOf(value)}
      options={options}
      choose={(text) => {
        const chosen = options.find((option) => textOf(option.value) === text);
        if (chosen) onChange(chosen.value);
      }}
    />
  );
}

interface ListProps {
  face: { id?: string; "aria-label"?: string; className: string };
  value: string;
  options: readonly Option<string | null>[];
  choose: (text: string) => void;
}

function NativeList({ face, value, options, choose }: ListProps) {
  return (
    <select {...face} value={value} onChange={(event) => choose(event.target.value)}>
      {options.map((option) => (
        <option key={textOf(option.value)} value={textOf(option.value)}>
          {option.hint ? `${option.text} ${option.hint}` : option.text}
        </option>
      ))}
    </select>
  );
}

function OpeningList({ face, value, options, choose }: ListProps) {
  return (
    <Select.Root value={value} onValueChange={choose}>
      <Select.Trigger {...face}>
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
