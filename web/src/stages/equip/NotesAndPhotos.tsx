import { type Device, Draft, freshId, type Photo, type RailwayRecord, type Turnout } from "@alderman/core";
import { useCallback, useEffect, useRef, useState } from "react";
import { smallPicture } from "../../parts/smallPicture.ts";
import { useEdit } from "../../session/useEdit.ts";

/** A turnout or a device that has a note and photos. */
type Subject = { kind: "turnout"; of: Turnout } | { kind: "device"; of: Device };

/** The note and the photos of a turnout or device; photos are made small before they are kept. */
export function NotesAndPhotos({ record, subject }: { record: RailwayRecord; subject: Subject }) {
  const act = useEdit();
  const [problem, setProblem] = useState<string | null>(null);
  const { kind, of } = subject;
  const photos = record.photos.filter(
    ({ turnoutId, deviceId }) => (kind === "turnout" ? turnoutId : deviceId) === of.id,
  );
  const setNote = (note: string) => {
    const draft = new Draft(record);
    if (subject.kind === "turnout") draft.put("turnout", { ...subject.of, note });
    else draft.put("device", { ...subject.of, note });
    act(draft.group(`Note on ${of.label}`));
  };
  const add = async (file: File | undefined) => {
    if (!file) return;
    try {
      const photo: Photo = {
        id: freshId(record, "photo", `${of.id}-photo`),
        ...{ turnoutId: kind === "turnout" ? of.id : null, deviceId: kind === "device" ? of.id : null },
        caption: file.name.replace(/\.\w+$/, "").slice(0, 80),
        picture: await smallPicture(file),
        at: new Date().toISOString(),
      };
      const draft = new Draft(record);
      draft.put("photo", photo);
      act(draft.group(`Photo of ${of.label}`));
      setProblem(null);
    } catch (error) {
      setProblem(error instanceof Error ? error.message : String(error));
    }
  };
  const remove = (photo: Photo) => {
    const draft = new Draft(record);
    draft.remove("photo", photo.id);
    act(draft.group(`Removed a photo of ${of.label}`));
  };
  return (
    <section className="mt-3 border-t border-rule pt-2" aria-label={`Note and photos of ${of.label}`}>
      <label className="font-head text-[14px] font-semibold" htmlFor={`note-${kind}-${of.id}`}>
        Note on {of.label}
      </label>
      <NoteField key={of.id} id={`note-${kind}-${of.id}`} note={of.note} save={setNote} />
      {problem && (
        <p role="alert" className="bg-red-wash px-2 py-1">
          {problem}
        </p>
      )}
      <div className="mt-1 flex flex-wrap items-end gap-2">
        {photos.map((photo) => (
          <figure key={photo.id} className="grid w-32 gap-1">
            <img
              src={photo.picture}
              alt={photo.caption || `Photo of ${of.label}`}
              className="max-h-24 w-full object-contain"
            />
            <figcaption className="quiet truncate text-[11.5px]">{photo.caption}</figcaption>
            <button type="button" className="btn !min-h-6" onClick={() => remove(photo)}>
              Remove
            </button>
          </figure>
        ))}
        <label className="btn cursor-pointer focus-within:outline-3 focus-within:outline-focus">
          Add a photo
          <input
            type="file"
            accept="image/*"
            className="sr-only"
            aria-label={`Add a photo of ${of.label}`}
            onChange={(event) => {
              void add(event.target.files?.[0]);
              event.target.value = "";
            }}
          />
        </label>
      </div>
    </section>
  );
}

/** Milliseconds after the last key at which a note is saved. */
const SAVE_AFTER = 700;

/** A note that is saved while one types, when it is left, and when what it stands in is closed. */
function NoteField({ id, note, save }: { id: string; note: string; save: (note: string) => void }) {
  const [text, setText] = useState(note);
  const latest = useRef({ text, saved: note, save });
  latest.current.text = text;
  latest.current.save = save;
  const keep = useCallback(() => {
    const { current } = latest;
    if (current.text === current.saved) return;
    current.saved = current.text;
    current.save(current.text);
  }, []);
  useEffect(() => {
    // changed from elsewhere, as by undo
    if (note === latest.current.saved) return;
    latest.current.saved = note;
    setText(note);
  }, [note]);
  // biome-ignore lint/correctness/useExhaustiveDependencies: each key begins the waiting anew
  useEffect(() => {
    const timer = setTimeout(keep, SAVE_AFTER);
    return () => clearTimeout(timer);
  }, [text, keep]);
  useEffect(() => keep, [keep]);
  return (
    <textarea
      id={id}
      className="field mt-1 !h-14 w-full py-1"
      maxLength={2000}
      value={text}
      onChange={(event) => setText(event.target.value)}
      onBlur={keep}
    />
  );
}
