import { type Fit, fit, readFit } from "#core/coolers/index.ts";
import { jsonCommand } from "../json-command.ts";
import { figure, line, printTable } from "../print.ts";

export const fitCommand = jsonCommand("fit", "FIT.json", (document) => fit(readFit(document)), printFit);

function printFit({ fits, turned, shiftMm, posts, gaps, dieCoveredPct, reasons, looksMirrored }: Fit): void {
  line(`${fits ? "It fits" : "It does NOT fit"}${turned ? ", turned by half a turn" : ""}`);
  line(
    `Shifted by ${figure(shiftMm.x, 2)}, ${figure(shiftMm.y, 2)} mm; the plate covers ${figure(dieCoveredPct)} % of the die`,
  );
  if (posts.length > 0)
    printTable([
      ["post", "hole", "off mm", "screw", "in its post mm"],
      ...posts.map((post) => [
        post.postId,
        post.holeId ?? "–",
        figure(post.offMm, 2),
        post.screwId ?? "–",
        figure(post.engagementMm, 2),
      ]),
    ]);
  if (gaps.length > 0)
    printTable([
      ["part", "face", "gap mm", "covered %"],
      ...gaps.map((gap) => [gap.partId, gap.faceId, figure(gap.gapMm, 2), figure(gap.coveredPct, 0)]),
    ]);
  for (const { text } of reasons) line(`! ${text}`);
  if (looksMirrored) line("! The drawing looks mirrored: every post finds a hole once it is turned over.");
}
