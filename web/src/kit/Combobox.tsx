import { useCombobox } from "downshift";
import { type SyntheticEvent, useMemo, useState } from "react";
import { inputClass } from "./Input.tsx";
import { useDropped } from "./useDropped.ts";

/** Choices shown at once. */
const SHOWN = 60;

const selectAll = (event: SyntheticEvent<HTMLInputElement>) => event.currentTarget.select();

/** One of many, found by typing a part of it. */
export function Combobox<T extends string | null>({
  label,
  value,
  options,
  onChange,
  className = "",
}: {
  label: string;
  value: T;
  options: readonly { value: T; text: string }[];
  onChange: (value: T) => void;
  className?: string;
}) {
  const chosen = options.find((option) => option.value === value) ?? null;
  const [wanted, setWanted] = useState("");
  const items = useMemo(() => {
    const text = wanted.trim().toLowerCase();
    return options.filter((option) => option.text.toLowerCase().includes(text)).slice(0, SHOWN);
  }, [options, wanted]);
  const { isOpen, highlightedIndex, getInputProps, getMenuProps, getItemProps, setInputValue } = useCombobox({
    items,
    selectedItem: chosen,
    itemToString: (item) => item?.text ?? "",
    onInputValueChange: ({ inputValue, type }) =>
      setWanted(type === useCombobox.stateChangeTypes.InputChange ? inputValue : ""),
    onSelectedItemChange: ({ selectedItem }) => selectedItem && onChange(selectedItem.value),
    // leaving it takes nothing that was not highlighted: what was chosen before stands there again
    onIsOpenChange: ({ isOpen: open }) => !open && setInputValue(chosen?.text ?? ""),
  });
  const { setField, setList, style } = useDropped(isOpen);
  return (
    <div className={className}>
      <input
        className={inputClass()}
        {...getInputProps({
          ref: setField,
          "aria-label": label,
          // what is typed takes the place of what was chosen
          onFocus: selectAll,
          onClick: selectAll,
        })}
      />
      <ul
        className={`z-30 overflow-auto rounded-[3px] border border-ink bg-sheet ${isOpen ? "" : "hidden"}`}
        {...getMenuProps({ "aria-label": label, ref: setList, style })}
      >
        {isOpen &&
          items.map((item, index) => (
            <li
              key={item.value ?? ""}
              className={`cursor-pointer px-2 py-1 ${index === highlightedIndex ? "bg-copper-wash shadow-[inset_3px_0_0_var(--copper)]" : ""}`}
              {...getItemProps({ item, index })}
            >
              {item.text}
            </li>
          ))}
        {isOpen && items.length === 0 && <li className="px-2 py-1 text-ink-2">None is called that.</li>}
      </ul>
    </div>
  );
}
