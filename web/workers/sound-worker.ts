import * as Comlink from "comlink";
import { SoundSession } from "./sound-session.ts";

Comlink.expose(new SoundSession());
