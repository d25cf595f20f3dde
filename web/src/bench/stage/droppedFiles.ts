import type { BenchStore } from '../state/benchState';
import { openEdit } from '../state/clipboard';
import { pictureOf } from '../state/referencePictures';

/** What files mean that are dropped on the photograph: an edit is opened, a picture lies beside it to take colours from. */
export async function takeDropped({ getState }: BenchStore, files: readonly File[]): Promise<void> {
  const [file] = files;
  if (!file) return;
  if (file.name.endsWith('.json')) return openEdit(getState, file);
  try {
    const opened = await pictureOf(file, file.name);
    getState().set({
      references: [...(getState().references ?? []), opened],
      notice: `“${file.name}” lies beside the photograph, to take colours from. To work on it, drop it on its shoot.`,
    });
  } catch (error) {
    getState().set({ notice: (error as Error).message });
  }
}
