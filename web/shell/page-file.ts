import type { ComponentType } from "react";

/** A file of the page that did not come: the connection is gone, or the server has another version by now. */
export class FileMissing extends Error {}

/** A page that is fetched when it is first opened. */
export const from =
  <File>(load: () => Promise<File>, pick: (file: File) => ComponentType) =>
  async () => {
    try {
      return { Component: pick(await load()) };
    } catch (cause) {
      throw new FileMissing("A file of the page did not come.", { cause });
    }
  };

const SCRIPT = /<script[^>]*\ssrc="([^"]{1,300})"/;

/** The script of the page that the server has now, where it is another than this window's; null where it is the same or nobody answers. */
export async function newerScript(): Promise<string | null> {
  try {
    const text = await (await fetch("/", { cache: "no-store" })).text();
    const there = SCRIPT.exec(text.slice(0, 20_000))?.[1];
    if (there === undefined) return null;
    const here = [...document.scripts].map((one) => one.getAttribute("src"));
    return here.includes(there) ? null : there;
  } catch {
    return null;
  }
}
