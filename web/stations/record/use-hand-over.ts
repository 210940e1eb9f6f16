import type { HandOverInput, HandOverView } from "#contract";
import { api } from "../../app/api.ts";
import { documentKind } from "../../app/document.ts";
import { mergeChanges } from "../../app/merge.ts";

export const ofHandOver = ({ version, ...value }: HandOverView) => ({ version, value });

type Leaves = HandOverInput["leaves"];

/** Things that go into the box: theirs, with what was put in, taken out and packed here. */
function mergeLeaves(base: Leaves, mine: Leaves, theirs: Leaves): Leaves {
  const in_ = (list: Leaves, what: string) => list.find((one) => one.what === what);
  const kept = theirs
    .filter(({ what }) => in_(mine, what) || !in_(base, what))
    .map((one) => {
      const [here, before] = [in_(mine, one.what), in_(base, one.what)];
      return here && here.packed !== before?.packed ? here : one;
    });
  return [...kept, ...mine.filter(({ what }) => !in_(base, what) && !in_(theirs, what))];
}

/** What the record shows by choice, and what leaves with the card. */
export const HAND_OVER = documentKind<HandOverInput, HandOverView>({
  name: "hand-over",
  read: "handOver",
  of: ofHandOver,
  send: (serviceId, { value, version, changes }, dispatch) =>
    dispatch(
      api.endpoints.changeHandOver.initiate({ serviceId, body: { ...value, version, changes } }, { track: false }),
    ),
  merge: (base, mine, theirs) => ({
    ...mergeChanges(base, mine, theirs),
    leaves: mergeLeaves(base.leaves, mine.leaves, theirs.leaves),
  }),
});
