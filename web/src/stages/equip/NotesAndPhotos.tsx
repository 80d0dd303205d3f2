import {
  type Device,
  Draft,
  type EditGroup,
  freshId,
  type Photo,
  type RailwayRecord,
  type Turnout,
} from "@alderman/core";
import { ImagePlus } from "lucide-react";
import { useState } from "react";
import { Button } from "../../kit/Button.tsx";
import { Field } from "../../kit/Field.tsx";
import { FileButton } from "../../kit/FileButton.tsx";
import { TextField } from "../../kit/TextField.tsx";
import { shownRecord } from "../../session/shownSession.ts";
import { useEdit, useTryEdit } from "../../session/useEdit.ts";
import { useAppStore } from "../../store/store.ts";
import { smallPicture } from "../../tools/smallPicture.ts";

/** A turnout or a device that has a note and photos. */
type Subject = { kind: "turnout"; of: Turnout } | { kind: "device"; of: Device };

/** A photo of something, as an edit of the record as it is. */
function photoAdded(record: RailwayRecord, { kind, of }: Subject, fileName: string, picture: string): EditGroup {
  const draft = new Draft(record);
  draft.put("photo", {
    id: freshId(record, "photo", `${of.id}-photo`),
    ...{ turnoutId: kind === "turnout" ? of.id : null, deviceId: kind === "device" ? of.id : null },
    caption: fileName.replace(/\.\w+$/, "").slice(0, 80),
    picture,
    at: new Date().toISOString(),
  });
  return draft.group(`Photo of ${of.label}`);
}

/** The note and the photos of a turnout or device; photos are made small before they are kept. */
export function NotesAndPhotos({ record, subject }: { record: RailwayRecord; subject: Subject }) {
  const act = useEdit();
  const tryEdit = useTryEdit();
  const store = useAppStore();
  const [problems, setProblems] = useState<readonly string[]>([]);
  const { kind, of } = subject;
  const photos = record.photos.filter(
    ({ turnoutId, deviceId }) => (kind === "turnout" ? turnoutId : deviceId) === of.id,
  );
  const setNote = (note: string) => {
    const draft = new Draft(record);
    if (subject.kind === "turnout") draft.put("turnout", { ...subject.of, note });
    else draft.put("device", { ...subject.of, note });
    return tryEdit(draft.group(`Note on ${of.label}`));
  };
  const addOne = async (file: File): Promise<string | null> => {
    try {
      const picture = await smallPicture(file);
      // in the record as it is by then: another photo may have come in meanwhile
      return tryEdit(() => photoAdded(shownRecord(store.getState()) ?? record, subject, file.name, picture));
    } catch (error) {
      return error instanceof Error ? error.message : String(error);
    }
  };
  const add = (file: File) => {
    setProblems([]);
    void addOne(file).then((problem) => {
      if (problem !== null) setProblems((before) => [...before, problem]);
    });
  };
  const remove = (photo: Photo) => {
    const draft = new Draft(record);
    draft.remove("photo", photo.id);
    act(draft.group(`Removed a photo of ${of.label}`));
  };
  return (
    <section className="mt-3 border-t border-rule pt-2" aria-label={`Note and photos of ${of.label}`}>
      <Field label={<b className="font-head text-h3 font-semibold">Note on {of.label}</b>} stacked>
        {(ids) => <TextField key={of.id} ids={ids} lines={2} value={of.note} save={setNote} />}
      </Field>
      {problems.map((problem) => (
        <p key={problem} role="alert" className="bg-red-wash px-2 py-1">
          {problem}
        </p>
      ))}
      <div className="mt-1 flex flex-wrap items-end gap-2">
        {photos.map((photo) => (
          <figure key={photo.id} className="grid w-32 gap-1">
            <img
              src={photo.picture}
              alt={photo.caption || `Photo of ${of.label}`}
              className="max-h-24 w-full object-contain"
            />
            <figcaption className="truncate text-note text-ink-2">{photo.caption}</figcaption>
            <Button size="small" onClick={() => remove(photo)}>
              Remove
            </Button>
          </figure>
        ))}
        <FileButton accept="image/*" several label={`Add a photo of ${of.label}`} onFile={add}>
          <ImagePlus size={14} aria-hidden="true" /> Add a photo
        </FileButton>
      </div>
    </section>
  );
}
