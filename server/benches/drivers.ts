import type { DriverId } from "#contract";
import type { OpenDriver } from "./driver.ts";
import { openFile } from "./file.ts";
import { openHwmon } from "./hwmon.ts";
import { openPush } from "./push.ts";
import { openSimulated } from "./simulated.ts";

const OPENERS: Record<DriverId, OpenDriver> = {
  simulated: openSimulated,
  hwmon: openHwmon,
  file: openFile,
  push: openPush,
};

/** Connects a bench. @throws Problem `no-device`, `no-channels` with what to do */
export const openDriver: OpenDriver = (input) => OPENERS[input.driver](input);
