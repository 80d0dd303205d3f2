import { addressRange, Draft, type OutputAddress, setAddress } from "@alderman/core";
import { useState } from "react";
import { useLeader, useResults } from "../../derivation/hooks.ts";
import { FindingCard } from "../../parts/FindingCard.tsx";
import { Mark } from "../../parts/Mark.tsx";
import { Sheet, StageMain } from "../../parts/Sheet.tsx";
import { useRecord } from "../../session/hooks.ts";
import { useEdit } from "../../session/useEdit.ts";
import { useAppDispatch } from "../../store/store.ts";
import { choose } from "../../store/view.ts";

/** The address list: which output answers to which number, and what it throws. */
export function NumbersStage() {
  const { overview } = useResults();
  const shift = useRecord()?.railway.addressShift ?? 0;
  const leader = useLeader();
  const dispatch = useAppDispatch();
  const outputs = overview?.addresses ?? [];
  const findings = overview?.findings.filter(({ ruleId }) => ruleId.startsWith("address-")) ?? [];
  const { first, last } = addressRange(shift);
  return (
    <StageMain title="Numbers" about="Accessory addresses of all outputs">
      <div className="grid min-h-0 grid-cols-[minmax(0,1fr)_300px] gap-2.5">
        <Sheet
          title="Address list"
          about={`${outputs.filter(({ throws }) => throws).length} of ${outputs.length} outputs in use; type over an address to change it`}
        >
          <div className="scroll">
            {overview && outputs.length === 0 && (
              <p className="quiet p-3">
                No decoder yet. Addresses appear here as soon as a board with numbered outputs is added in Equip.
              </p>
            )}
            <table className="list" aria-label="Address list">
              <thead>
                <tr>
                  <th>Output</th>
                  <th className="num head">Address</th>
                  <th className="num head">{shift === 0 ? "From raw 0" : "By the standard"}</th>
                  <th className="num head">Decoder</th>
                  <th className="num head">Pair</th>
                  <th>Throws</th>
                  <th>Standing</th>
                  <th />
                </tr>
              </thead>
              <tbody>
                {outputs.map((output) => (
                  <tr
                    key={output.label}
                    aria-selected={output.turnoutId !== null && output.turnoutId === leader}
                    onClick={() => output.turnoutId && dispatch(choose(output.turnoutId))}
                  >
                    <td className="mono">{output.label}</td>
                    <td className="num">
                      <AddressField key={output.address} output={output} />
                    </td>
                    <td className="num quiet">{output.packet ? output.address + (shift === 0 ? 4 : -4) : ""}</td>
                    <td className="num">{output.packet?.decoder ?? "none"}</td>
                    <td className="num">{output.packet?.pair ?? ""}</td>
                    <td className="font-semibold">
                      {output.throws ?? <span className="quiet font-normal">free</span>}
                    </td>
                    <td className="quiet">{standing(output)}</td>
                    <td>
                      <Mark
                        verdict={
                          !output.packet
                            ? "wrong"
                            : output.sharedWith.length > 0
                              ? output.throws
                                ? "wrong"
                                : "doubtful"
                              : output.throws
                                ? "good"
                                : "open"
                        }
                        size={15}
                      />
                    </td>
                  </tr>
                ))}
              </tbody>
            </table>
          </div>
        </Sheet>
        <div className="grid min-h-0 grid-rows-[minmax(0,1fr)_auto] gap-2.5">
          <Sheet title="Findings" about="on addresses">
            <div className="scroll">
              {findings.length === 0 && <p className="quiet p-3">No two outputs share an address.</p>}
              {findings.map((finding) => (
                <FindingCard key={finding.key} finding={finding} />
              ))}
            </div>
          </Sheet>
          <Sheet title="How it is counted">
            <p className="p-3 text-[12px]">
              Addresses {first} to {last} can be sent; four to a decoder (NMRA S-9.2.1, RCN-213).{" "}
              {shift === 0
                ? "A station that counts from raw 0 shows the number in the column From raw 0."
                : "This railway's station counts from raw 0."}{" "}
              To find out: throw 1 and 5, and see which of them moves the first output of a board as bought. It is set
              in the railway's settings, under its name.
            </p>
          </Sheet>
        </div>
      </div>
    </StageMain>
  );
}

function standing({ factory, sharedWith, packet }: OutputAddress): string {
  if (!packet) return "no decoder can have it";
  if (sharedWith.length > 0) return `also ${sharedWith.slice(0, 3).join(", ")}`;
  return factory ? "as bought" : "set";
}

function AddressField({ output }: { output: OutputAddress }) {
  const record = useRecord();
  const act = useEdit();
  const [text, setText] = useState(String(output.address));
  if (!record) return null;
  const value = text.trim() === "" ? null : Number(text);
  const sound = value === null || (Number.isInteger(value) && value >= 0 && value <= 65535);
  const save = () => {
    if (!sound) setText(String(output.address));
    else if (value !== output.address) {
      const draft = new Draft(record);
      setAddress(draft, output.deviceId, output.way, value);
      act(
        draft.group(
          value === null ? `${output.label} has its factory address again` : `${output.label} has address ${value}`,
        ),
      );
    }
  };
  return (
    <input
      className="field mono !min-h-6 !w-20 text-right"
      aria-label={`Address of ${output.label}`}
      aria-invalid={!sound}
      inputMode="numeric"
      value={text}
      onChange={(event) => setText(event.target.value)}
      onBlur={save}
      onKeyDown={(event) => event.key === "Enter" && event.currentTarget.blur()}
    />
  );
}
