import { EMPTY_POWER_ON, type PowerOnInput, type ServiceView } from "#contract";
import { api } from "../../app/api.ts";
import { documentKind, useDocument } from "../../app/document.ts";

const of = ({ powerOn }: ServiceView) => ({ version: 0, value: powerOn ?? EMPTY_POWER_ON });

const POWER_ON = documentKind<PowerOnInput, ServiceView>({
  name: "power-on",
  // A note is typed letter by letter.
  afterMs: 250,
  read: "service",
  of,
  send: (serviceId, { value }, dispatch) =>
    dispatch(api.endpoints.powerOn.initiate({ serviceId, body: value }, { track: false })),
});

/** The answers of the first power-on. */
export const usePowerOn = (service: ServiceView) => useDocument(POWER_ON, service.id, of(service));
