import { Check } from "lucide-react";
import { DropdownMenu } from "radix-ui";
import type { ReactNode } from "react";

/** A menu that opens beside its trigger. */
function Menu({ trigger, align, children }: { trigger: ReactNode; align: "start" | "end"; children: ReactNode }) {
  return (
    <DropdownMenu.Root>
      <DropdownMenu.Trigger asChild>{trigger}</DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content
          align={align}
          sideOffset={4}
          collisionPadding={8}
          className="z-50 min-w-44 rounded-[3px] border border-ink bg-sheet py-1"
        >
          {children}
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}

/** A menu of things that are shown or not. */
export function ShownMenu({
  trigger,
  title,
  items,
}: {
  trigger: ReactNode;
  title: string;
  items: readonly { id: string; text: string; shown: boolean; toggle: (shown: boolean) => void }[];
}) {
  return (
    <Menu trigger={trigger} align="end">
      <DropdownMenu.Label className="px-3 py-1 font-head text-label text-ink-2">{title}</DropdownMenu.Label>
      {items.map(({ id, text, shown, toggle }) => (
        <DropdownMenu.CheckboxItem
          key={id}
          checked={shown}
          onCheckedChange={toggle}
          // several may be wanted one after the other
          onSelect={(event) => event.preventDefault()}
          className="flex cursor-pointer items-center gap-2 px-3 py-1 outline-none data-[highlighted]:bg-copper-wash max-sm:min-h-11"
        >
          <span className="size-3.5 flex-none">
            <DropdownMenu.ItemIndicator>
              <Check size={14} aria-hidden="true" />
            </DropdownMenu.ItemIndicator>
          </span>
          {text}
        </DropdownMenu.CheckboxItem>
      ))}
    </Menu>
  );
}

/** A menu of things that can be done. */
export function ActionMenu({
  trigger,
  items,
}: {
  trigger: ReactNode;
  items: readonly { text: string; act: () => void }[];
}) {
  return (
    <Menu trigger={trigger} align="start">
      {items.map(({ text, act }) => (
        <DropdownMenu.Item
          key={text}
          onSelect={act}
          className="cursor-pointer px-3 py-1 outline-none data-[highlighted]:bg-copper-wash max-sm:min-h-11"
        >
          {text}
        </DropdownMenu.Item>
      ))}
    </Menu>
  );
}
