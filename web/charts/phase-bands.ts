import type { Plugin } from "chart.js";
import type { PhaseStretch } from "#core";

const WORDS = { idle: "idle", warmup: "warming up", steady: "steady", cooldown: "cooling down" } as const;
const SHADES = { idle: 0.03, warmup: 0.1, steady: 0, cooldown: 0.06 } as const;

/** Shades a run's phases behind its lines and writes their names at the top. */
export function phaseBands(phases: () => PhaseStretch[]): Plugin<"line"> {
  return {
    id: "phases",
    beforeDatasetsDraw({ ctx, chartArea, scales }) {
      const { x } = scales;
      if (!x) return;
      const style = getComputedStyle(document.documentElement);
      ctx.save();
      ctx.beginPath();
      ctx.rect(chartArea.left, chartArea.top, chartArea.width, chartArea.height);
      ctx.clip();
      ctx.font = "12px 'Public Sans Variable', sans-serif";
      ctx.textBaseline = "top";
      for (const { kind, fromS, toS } of phases()) {
        const left = x.getPixelForValue(fromS);
        const right = x.getPixelForValue(toS);
        ctx.globalAlpha = SHADES[kind];
        ctx.fillStyle = style.getPropertyValue("--ice");
        ctx.fillRect(left, chartArea.top, right - left, chartArea.height);
        ctx.globalAlpha = 1;
        ctx.fillStyle = style.getPropertyValue("--soft");
        const word = WORDS[kind];
        if (right - left > ctx.measureText(word).width + 10)
          ctx.fillText(word, Math.max(left, chartArea.left) + 5, chartArea.top + 3);
      }
      ctx.restore();
    },
  };
}
