import type { Random } from "../random/index.ts";
import { type CardBuild, MIDSIZE } from "./card.ts";

/** A card drawn at random around the mid-sized one: another power, cooler, compound and fan. */
export function randomBuild(random: Random): CardBuild {
  const powerW = random.between(90, 320);
  const size = 200 / powerW;
  const vary = (value: number, share: number): number => value * (1 + share * random.between(-1, 1));
  return {
    ...MIDSIZE,
    powerW,
    pasteKPerW: vary(MIDSIZE.pasteKPerW * size ** 0.8, 0.3),
    gapKPerW: vary(MIDSIZE.gapKPerW * size ** 0.8, 0.3),
    plateKPerW: vary(MIDSIZE.plateKPerW * size, 0.25),
    finsKPerW: vary(MIDSIZE.finsKPerW * size, 0.2),
    airKPerW: vary(MIDSIZE.airKPerW * size, 0.3),
    fanExponent: random.between(0.52, 0.75),
    memoryPadKPerW: vary(MIDSIZE.memoryPadKPerW * size, 0.3),
    vrmPadKPerW: vary(MIDSIZE.vrmPadKPerW * size, 0.3),
    plateJPerK: vary(MIDSIZE.plateJPerK / size ** 0.5, 0.3),
    finsJPerK: vary(MIDSIZE.finsJPerK / size ** 0.5, 0.4),
  };
}
