/** The history as it is read: with the names that layers have now, and runs of one action in a line. */

export interface HistoryLine {
  text: string;
  /** The steps in it, as labels with present names. */
  steps: readonly string[];
  /** The place in the history before its first step and after its last. */
  from: number;
  to: number;
}

const RENAMED = /^Name (.+) instead of (.+)$/;

/** What a step acts on, and what it does, without its numbers: steps that agree in both are a run. */
function actionOf(label: string): string {
  const at = label.lastIndexOf(' on ');
  // Without a layer to act on, numbers may be those of names.
  return at < 0 ? label : label.slice(0, at).replaceAll(/[+−]?\d+(?:[.,]\d+)?/g, '#') + label.slice(at);
}

/** The labels with the names that layers were given later. @param labels from the first to the last that holds now */
function withPresentNames(labels: readonly string[]): string[] {
  const now = new Map<string, string>();
  const out = [...labels];
  for (let i = labels.length - 1; i >= 0; i--) {
    const label = labels[i]!;
    const renamed = RENAMED.exec(label);
    if (renamed) {
      const [, next, before] = renamed as unknown as [string, string, string];
      now.set(before, now.get(next) ?? next);
      out[i] = `Name ${next}`;
      continue;
    }
    for (const [before, next] of now)
      for (const joint of [' on ', ' for ', 'New layer '])
        if (label.endsWith(joint + before)) out[i] = label.slice(0, -before.length) + next;
  }
  return out;
}

/** @param position how many steps are done: those after it were undone, and tell no names */
export function historyLines(labels: readonly string[], position: number): HistoryLine[] {
  const named = [...withPresentNames(labels.slice(0, position)), ...labels.slice(position)];
  const lines: { steps: string[]; from: number }[] = [];
  for (const [i, label] of named.entries()) {
    const last = lines.at(-1);
    // What is done and what is undone stand in lines of their own.
    if (last && i !== position && actionOf(last.steps[0]!) === actionOf(label)) last.steps.push(label);
    else lines.push({ steps: [label], from: i });
  }
  return lines.map(({ steps, from }) => {
    const last = steps.at(-1)!;
    const unit = /^(?:Paint|Erase) /.test(last) ? 'strokes' : 'times';
    return { text: steps.length > 1 ? `${last}, ${steps.length} ${unit}` : last, steps, from, to: from + steps.length };
  });
}
