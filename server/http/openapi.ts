/** A short description of the HTTP API (OpenAPI 3.1); shapes are those of `contract/`. */
const ROUTES: ReadonlyArray<readonly [method: string, path: string, summary: string]> = [
  ["get", "/api/health", "Is the server there"],
  ["get", "/api/openapi.json", "This description"],
  ["post", "/api/sign-in", "Start a session with the passphrase (only where the server listens to the network)"],
  ["get", "/api/bench", "Every card with its station, figure and next step"],
  ["post", "/api/cards", "Take a card in"],
  ["get", "/api/cards/{id}", "One card"],
  ["put", "/api/cards/{id}", "Change a card; send the version it was made from"],
  ["post", "/api/cards/{id}/photos", "Add a photo (multipart, field photo)"],
  ["put", "/api/cards/{id}/photos/{photo}/removed", "Take a photo off, or put it back"],
  ["get", "/api/photos/{id}", "A photo as JPEG"],
  ["get", "/api/boards", "Board models with limits"],
  ["put", "/api/boards/{id}", "Change a board model"],
  ["get", "/api/services/{id}", "A service: stations, runs, notes, comparisons"],
  ["put", "/api/services/{id}/skip", "Skip a station with a reason, or take that back with null"],
  ["put", "/api/services/{id}/closed", "Hand over, or open again"],
  ["post", "/api/services/{id}/runs", "Add a run (multipart: log, and run as JSON)"],
  ["post", "/api/services/{id}/notes", "Note work done"],
  ["put", "/api/notes/{id}", "Change a note"],
  ["put", "/api/notes/{id}/removed", "Remove a note, or put it back"],
  ["post", "/api/header-choice", "What the columns of such a header were last taken for"],
  ["get", "/api/runs/{id}", "One run with its figures"],
  ["put", "/api/runs/{id}", "Change conditions, roles, room air or window; figures are computed anew"],
  ["put", "/api/runs/{id}/removed", "Remove a run, or put it back"],
  ["get", "/api/runs/{id}/samples", "Samples for display (binary, see contract/run.ts)"],
  ["get", "/api/runs/{id}/original", "The log as it was dropped"],
  ["get", "/api/settings", "The workshop's settings"],
  ["put", "/api/settings", "Change the settings"],
  ["get", "/api/passphrase", "Is a passphrase set"],
  ["put", "/api/passphrase", "Set the passphrase for listening to the network"],
  ["get", "/api/export.json", "Everything as one JSON document"],
  ["get", "/api/export/cards.csv", "Cards as CSV"],
  ["get", "/api/export/runs.csv", "Runs as CSV"],
  ["get", "/api/export/notes.csv", "Work notes as CSV"],
  ["post", "/api/import", "Add an export of another machine"],
  ["get", "/api/backup", "A copy of the database"],
];

export function openApi(): object {
  const paths: Record<string, Record<string, object>> = {};
  for (const [method, path, summary] of ROUTES) {
    const parameters = [...path.matchAll(/\{(\w+)\}/g)].map(([, name]) => ({
      name,
      in: "path",
      required: true,
      schema: { type: "string" },
    }));
    paths[path] = {
      ...paths[path],
      [method]: {
        summary,
        parameters,
        responses: {
          "2XX": { description: "Done" },
          default: { description: "RFC 9457 problem", content: { "application/problem+json": {} } },
        },
      },
    };
  }
  return { openapi: "3.1.0", info: { title: "Algidus", version: "0.1.0" }, paths };
}
