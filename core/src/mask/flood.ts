/**
 * The pixels connected to one of them through pixels that hold, by their four neighbours: 1, and 0 for the rest. Fills row by row.
 * @param holds asked of a pixel's number, counted row by row
 * @returns width * height values; all 0 when the first pixel does not hold or lies outside
 */
export function floodFill(width: number, height: number, x: number, y: number, holds: (at: number) => boolean): Uint8Array {
  const out = new Uint8Array(width * height);
  if (x < 0 || y < 0 || x >= width || y >= height || !holds(y * width + x)) return out;
  const stack = [y * width + x];
  while (stack.length > 0) {
    const at = stack.pop()!;
    if (out[at] === 1) continue;
    const row = at - (at % width);
    let left = at;
    while (left > row && out[left - 1] === 0 && holds(left - 1)) left--;
    let right = at;
    while (right < row + width - 1 && out[right + 1] === 0 && holds(right + 1)) right++;
    out.fill(1, left, right + 1);
    for (const step of [-width, width]) {
      if (row + step < 0 || row + step >= out.length) continue;
      let open = false;
      for (let i = left + step; i <= right + step; i++) {
        const free = out[i] === 0 && holds(i);
        if (free && !open) stack.push(i);
        open = free;
      }
    }
  }
  return out;
}
