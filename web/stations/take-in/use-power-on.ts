import { useState } from "react";
import { EMPTY_POWER_ON, type PowerOnInput, type ServiceView } from "#contract";
import { api } from "../../app/api.ts";
import { outboxKind, sentAnswer } from "../../app/outbox.ts";
import { useOutbox } from "../../app/use-outbox.ts";

const POWER_ON = outboxKind<PowerOnInput>({
  name: "power-on",
  // A note is typed letter by letter.
  afterMs: 250,
  async send(id, { value }, dispatch) {
    return sentAnswer(await dispatch(api.endpoints.powerOn.initiate({ serviceId: id, body: value }, { track: false })));
  },
});

/** The answers of the first power-on: shown at once, saved by themselves in order, kept in the browser until the server has them. */
export function usePowerOn(service: ServiceView) {
  const { value, fault, unsaved, change } = useOutbox(POWER_ON, service.id, 0);
  const [held, setHeld] = useState(value ?? service.powerOn ?? EMPTY_POWER_ON);
  const save = (next: PowerOnInput): void => {
    setHeld(next);
    change(next);
  };
  return { held, save, fault, unsaved };
}
