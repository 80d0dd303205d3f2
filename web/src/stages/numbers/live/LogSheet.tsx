import { frameIn, type Named, type RailwayRecord, wordsOf, writeCandump } from "@alderman/core";
import { useVirtualizer } from "@tanstack/react-virtual";
import { useEffect, useMemo, useRef, useState, useSyncExternalStore } from "react";
import { Button } from "../../../kit/Button.tsx";
import { FileButton } from "../../../kit/FileButton.tsx";
import { Input } from "../../../kit/Input.tsx";
import { Segmented } from "../../../kit/Segmented.tsx";
import { Sheet } from "../../../kit/Sheet.tsx";
import type { LiveLine } from "../../../live/liveLine.ts";
import { GATEWAY_WORDS, GATEWAYS, type GatewayName, type Message } from "../../../live/liveServer.ts";
import { readLog } from "../../../live/readLog.ts";
import { notify } from "../../../store/notices.ts";
import { useAppDispatch } from "../../../store/store.ts";
import { saveText } from "../../../tools/saveFile.ts";

const ROW = 24;
type Shown = GatewayName | "all";

/** All that goes over the lines, as it goes, in words; filtered, held still, and kept as a log of frames. */
export function LogSheet({ record, line, named }: { record: RailwayRecord; line: LiveLine; named: Named }) {
  const dispatch = useAppDispatch();
  const [shown, setShown] = useState<Shown>("all");
  const [filter, setFilter] = useState("");
  const [held, setHeld] = useState<{ messages: Message[]; left: number } | null>(null);
  useSyncExternalStore(line.subscribe, line.getVersion);
  const { messages, left } = held ?? line;
  const rows = useFiltered(messages, shown, filter, named, held ? -1 : line.version);
  const there = line.status?.gateways.map(({ name }) => name) ?? [];
  const keep = () => {
    const frames = messages.flatMap(({ at, text, from }) => {
      const frame = from === "bus" ? frameIn(text) : null;
      return frame ? [{ ...frame, seconds: at / 1000, bus: "can0" }] : [];
    });
    saveText(
      `${record.railway.name.toLowerCase().replaceAll(/[^a-z0-9]+/g, "-")}.log`,
      "text/plain",
      writeCandump(frames),
    );
  };
  const open = (file: File) => {
    void readLog(file).then(({ messages: read, words }) => {
      setHeld(null);
      line.show(read);
      dispatch(notify(words));
    });
  };
  return (
    <Sheet
      title="What goes over the lines"
      about={`${rows.length === messages.length ? messages.length : `${rows.length} of ${messages.length}`} messages${left > 0 ? `, ${left} before them left out` : ""}`}
      actions={
        <>
          <Button
            size="small"
            onClick={() => setHeld(held ? null : { messages: [...line.messages], left: line.left })}
            aria-pressed={held !== null}
          >
            {held ? "Go on" : "Pause"}
          </Button>
          <Button size="small" onClick={() => line.clear()}>
            Clear
          </Button>
        </>
      }
    >
      <div className="flex flex-none flex-wrap items-center gap-2 border-b border-rule px-3 py-1.5">
        <Segmented<Shown>
          label="Lines"
          size="small"
          value={shown}
          segments={[
            { value: "all", text: "All" },
            ...GATEWAYS.filter((name) => there.includes(name)).map((value) => ({
              value,
              text: GATEWAY_WORDS[value],
            })),
          ]}
          onChange={setShown}
        />
        <Input
          aria-label="Find in the log"
          placeholder="Find"
          className="min-w-24 flex-1"
          value={filter}
          onChange={(event) => setFilter(event.target.value)}
        />
        <Button size="small" disabled={!messages.some(({ from }) => from === "bus")} onClick={keep}>
          Save frames
        </Button>
        <FileButton size="small" accept=".log,.txt,text/plain" onFile={open}>
          Open a log
        </FileButton>
      </div>
      <Lines rows={rows} named={named} still={held !== null} />
    </Sheet>
  );
}

/** Those of the messages that are shown; what only came at the end is looked at alone. @param version that says that the list changed */
function useFiltered(messages: Message[], shown: Shown, filter: string, named: Named, version: number): Message[] {
  const known = useRef<{ key: string; first: Message | undefined; seen: number; rows: Message[] } | null>(null);
  // biome-ignore lint/correctness/useExhaustiveDependencies: the list grows in place, and the version says so
  return useMemo(() => {
    const text = filter.trim().toLowerCase();
    if (shown === "all" && text === "") {
      known.current = null;
      return messages;
    }
    const key = `${shown} ${text}`;
    const before = known.current;
    const goesOn = before?.key === key && before.first === messages[0] && before.seen <= messages.length;
    const rows = goesOn ? before.rows : [];
    const isShown = ({ from, text: message }: Message) =>
      (shown === "all" || from === shown) &&
      (text === "" || message.toLowerCase().includes(text) || wordsOf(message, named).toLowerCase().includes(text));
    for (let at = goesOn ? before.seen : 0; at < messages.length; at++) {
      const message = messages[at];
      if (message && isShown(message)) rows.push(message);
    }
    known.current = { key, first: messages[0], seen: messages.length, rows };
    return rows;
  }, [messages, shown, filter, named, version]);
}

/** The messages that are in sight; the last ones, unless one has gone back. */
function Lines({ rows, named, still }: { rows: Message[]; named: Named; still: boolean }) {
  const scroll = useRef<HTMLDivElement>(null);
  const follows = useRef(true);
  const virtual = useVirtualizer({
    count: rows.length,
    getScrollElement: () => scroll.current,
    estimateSize: () => ROW,
    overscan: 10,
    useFlushSync: false,
  });
  useEffect(() => {
    if (!still && follows.current && rows.length > 0) virtual.scrollToIndex(rows.length - 1, { align: "end" });
  });
  return (
    <div
      ref={scroll}
      role="log"
      aria-label="Messages"
      aria-live="off"
      // biome-ignore lint/a11y/noNoninteractiveTabindex: it is scrolled by keys
      tabIndex={0}
      className="min-h-0 flex-1 overflow-auto focus-visible:-outline-offset-3"
      onScroll={({ currentTarget: { scrollTop, clientHeight, scrollHeight } }) => {
        follows.current = scrollTop + clientHeight > scrollHeight - 2 * ROW;
      }}
    >
      {rows.length === 0 && (
        <p className="p-3 text-ink-2">Nothing yet. Start the stand-ins, throw an address, or work an input.</p>
      )}
      <ol className="relative" style={{ height: virtual.getTotalSize() }}>
        {virtual.getVirtualItems().map(({ index, start }) => {
          const message = rows[index];
          return message ? (
            <Line key={index} message={message} words={wordsOf(message.text, named)} top={start} />
          ) : null;
        })}
      </ol>
    </div>
  );
}

function Line({ message: { at, from, sent, text }, words, top }: { message: Message; words: string; top: number }) {
  return (
    <li
      className="absolute inset-x-0 grid grid-cols-[92px_16px_minmax(0,4fr)_minmax(0,5fr)] items-center gap-x-2 border-b border-rule px-3 max-sm:grid-cols-[92px_16px_minmax(0,1fr)]"
      style={{ top, height: ROW }}
    >
      <span className="text-small text-ink-2">{timeOf(at)}</span>
      <span aria-hidden="true" title={GATEWAY_WORDS[from]}>
        {sent ? "→" : "←"}
      </span>
      {/* on a narrow screen there is room for one of the two */}
      <span className={`mono truncate text-small ${words === "" ? "" : "max-sm:hidden"}`} title={text}>
        {text}
      </span>
      <span className={`truncate ${words === "" ? "max-sm:hidden" : ""}`} title={words}>
        {words}
      </span>
    </li>
  );
}

/** Time of day to the millisecond. */
function timeOf(at: number): string {
  const date = new Date(at);
  const two = (value: number) => String(value).padStart(2, "0");
  return `${two(date.getHours())}:${two(date.getMinutes())}:${two(date.getSeconds())}.${String(date.getMilliseconds()).padStart(3, "0")}`;
}
