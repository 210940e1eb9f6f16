import { NoteChange, NoteInput } from "#contract";
import { param, post, put, removable } from "../../http/route.ts";
import { loadNothing, type ServerStation } from "../station.ts";
import { addNote, changeNote, setNoteRemoved } from "./notes.ts";

/** Its notes lie below the stations (`db/schema.ts`): kinds of work are facts that other stations read. */
export const station: ServerStation<null> = {
  id: "work",
  tables: {},
  load: loadNothing,
  routes: (context) => [
    post("/services/:id/notes", "Note work done", NoteInput, ({ params, body }) =>
      addNote(context, param(params, "id"), body),
    ),
    put("/notes/:id", "Change a note", NoteChange, ({ params, body }) =>
      changeNote(context, param(params, "id"), body),
    ),
    removable("/notes/:id", "Remove a note, or put it back", (params, removed) =>
      setNoteRemoved(context, param(params, "id"), removed),
    ),
  ],
};
