/** Depth and cut-off belong together: the cut-off is never above the floor that the depth leaves. */

/** Both fields for a depth, the cut-off as it was where that still holds. */
export function depthFields(
  depth_frac: number,
  cutoff_soc_frac: number,
): { depth_frac: number; cutoff_soc_frac: number } {
  const floor = Math.round((1 - depth_frac) * 1e6) / 1e6
  return { depth_frac, cutoff_soc_frac: Math.min(cutoff_soc_frac, floor) }
}
