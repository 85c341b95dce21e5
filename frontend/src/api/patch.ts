import type { Schemas } from "./client";

type Chart = Schemas["ChartOut"];

/** The chart that a patch makes of the one it was made for; undefined where another is at hand. */
export function patched(told: Chart | undefined, patch: Schemas["ChartPatchOut"]): Chart | undefined {
  if (told?.revision !== patch.base) return undefined;
  const next: Record<string, unknown> = { ...told, ...patch.fields };
  for (const [name, { at, gone, rows }] of Object.entries(patch.rows)) {
    const before = next[name] as unknown[];
    next[name] = [...before.slice(0, at), ...rows, ...before.slice(at + gone)];
  }
  return next as Chart;
}
