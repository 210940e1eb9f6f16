import * as Comlink from "comlink";
import { RunSession } from "./run-session.ts";

Comlink.expose(new RunSession());
