import { Button } from "../../kit/Button.tsx";

const EXAMPLE = `label,name,hand,zone,with,motor,driver,control,lamp,run
A1,Goods loop west,left,Station,,stall-motor,stall-decoder-8,,lamp-two-colour,1.2
A2,Goods loop east,right,Station,,stall-motor,D1-2,,lamp-two-colour,2.0
B1,Coal stage,left,Yard,,twin-coil-under-board,cdu,toggle-centre-off,,0.8`;

/** What an empty list says: how to begin, and an example to take in. */
export function FirstSteps({ importText }: { importText: (text: string) => void }) {
  return (
    <div className="grid max-w-[640px] justify-items-start gap-3 p-6">
      <h3>How to begin</h3>
      <p>
        Type the label of your first turnout and press Enter; the next row opens by itself. Then go to the right with
        Tab for its motor, driver, control and lamp: type a few letters and choose. A crossover's second turnout moves
        with the first.
      </p>
      <p>A table from a spreadsheet can be pasted, or imported as CSV. Its first row names the columns:</p>
      <pre className="mono border border-rule bg-sheet-2 p-3 text-note">{EXAMPLE}</pre>
      <Button onClick={() => importText(EXAMPLE)}>Import this example</Button>
    </div>
  );
}
