import { useEffect } from "react";
import { API, urlOf } from "#contract";
import { api } from "../app/api.ts";
import { connection } from "../app/connection.ts";
import { useAppDispatch, useAppSelector } from "../app/store.ts";
import { READS } from "../app/wire.ts";

const RETRY_MS = 2000;

/** Says when the server is gone, keeps asking, and goes on when it is back. */
export function ConnectionBar() {
  const lost = useAppSelector((state) => state.connection.lost);
  const dispatch = useAppDispatch();
  useEffect(() => {
    if (!lost) return undefined;
    const timer = setInterval(() => {
      fetch(urlOf(API.health, {}))
        .then((answer) => {
          if (!answer.ok) return;
          dispatch(connection.actions.found());
          dispatch(api.util.invalidateTags([...READS]));
        })
        .catch(() => undefined);
    }, RETRY_MS);
    return () => clearInterval(timer);
  }, [lost, dispatch]);
  if (!lost) return null;
  return (
    <p role="alert" className="no-print sticky top-0 z-40 bg-amber-wash px-4 py-2 font-semibold text-amber">
      The server does not answer. What you type is kept in this window; saving goes on when it is back.
    </p>
  );
}
