import { COMMANDS, LOCAL_KEYS } from "../frame/commands.ts";
import { DataTable } from "../kit/DataTable.tsx";
import { Dialog } from "../kit/Dialog.tsx";

/** The keys that work here. */
export function KeysDialog({ close }: { close: () => void }) {
  const everywhere = COMMANDS.flatMap(({ written, words }): [string, string][] => (written ? [[written, words]] : []));
  const places = [{ place: "Everywhere in a railway", keys: everywhere }, ...LOCAL_KEYS];
  return (
    <Dialog title="Keys" close={close}>
      {places.map(({ place, keys }) => (
        <section key={place} className="mb-3">
          <h3 className="mb-1">{place}</h3>
          <DataTable
            flowing
            className="table-fixed"
            label={place}
            items={keys}
            idOf={([written]) => written}
            columns={[
              { id: "keys", title: "Keys", width: 130, mono: true, cell: ([written]) => written },
              { id: "words", title: "What they do", cell: ([, words]) => words },
            ]}
          />
        </section>
      ))}
    </Dialog>
  );
}
