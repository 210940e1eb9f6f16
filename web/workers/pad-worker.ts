import * as Comlink from "comlink";
import { PadSession } from "./pad-session.ts";

Comlink.expose(new PadSession());
