import { emptyDocument, sourceLayer, type UmboDocument } from '@umbo/core/document';
import type { VersionSummary } from '@umbo/data';
import type { ComparedSide } from '../../../workers/protocol';
import type { PhotographInfo, ShootInfo, ShootSlice } from '../benchState';
import type { Bench } from './slice';

export function shootSlice(bench: Bench, photograph: PhotographInfo, shoot: ShootInfo): ShootSlice {
  const { get, set, read } = bench;
  /** A version, or an edit that shows another photograph of the shoot as large as this one has room for it. */
  const editOf = async (kind: 'version' | 'other', id: number): Promise<UmboDocument> => {
    if (kind === 'version') return (await read<{ document: UmboDocument }>(`/api/versions/${id}`)).document;
    const other = get().shoot.photographs.find((one) => one.id === id);
    if (!other) throw new Error('This photograph is not in the shoot any longer.');
    const ground = sourceLayer('ground', 'fill', 'Ground', photograph);
    const frame = sourceLayer('other', 'frame', other.name, photograph);
    const scale = 100 * Math.min(photograph.width / other.width, photograph.height / other.height);
    Object.assign(frame.what.settings, { photograph: other.sha256, scale });
    return { ...emptyDocument(photograph), layers: [ground, frame] };
  };
  /** What was chosen last for either side of a comparison. */
  const chosen: Partial<Record<ComparedSide, string>> = {};
  return {
    shoot,
    references: null,
    versions: [],
    async compareWith(side, what) {
      const [kind, id = ''] = what.split(/ (.*)/);
      chosen[side] = what;
      try {
        const told = kind === 'version' || kind === 'other' ? what : null;
        if (told) {
          const edit = await editOf(kind as 'version' | 'other', Number(id));
          if (chosen[side] !== what) return; // something else was chosen while it was read
          bench.engine?.tell(side, edit);
        }
        // As things are now: how the two are compared may have been changed while the edit was read.
        const { compare, peek } = get().look;
        const mode = compare === 'after' ? 'wipe' : compare;
        if (side === 'before')
          get().setLook({
            compare: mode,
            against: told
              ? { kind: 'told', key: told }
              : kind === 'layer'
                ? { kind, id }
                : kind === 'unproofed'
                  ? { kind }
                  : { kind: 'photograph' },
          });
        else
          get().setLook({
            compare: mode,
            instead: told,
            peek: { ...peek, solo: null, upTo: kind === 'layer' ? id : kind === 'photograph' ? kind : null },
          });
      } catch (error) {
        set({ notice: (error as Error).message });
      }
    },
    async refreshVersions() {
      try {
        set({ versions: await read<VersionSummary[]>(`/api/photographs/${photograph.id}/versions`) });
      } catch (error) {
        set({ notice: `The versions could not be read: ${(error as Error).message}` });
      }
    },
    finding: null,
    aligning: null,
    addMaskPicture(mask) {
      const now = get().shoot;
      if (now.masks.some(({ sha256 }) => sha256 === mask.sha256)) return;
      set({ shoot: { ...now, masks: [...now.masks, mask] } });
      bench.engine?.addOther({ ...mask, isMask: true });
    },
    nameMaskPicture(sha256, id) {
      const now = get().shoot;
      set({ shoot: { ...now, masks: now.masks.map((mask) => (mask.sha256 === sha256 ? { ...mask, id } : mask)) } });
    },
  };
}
