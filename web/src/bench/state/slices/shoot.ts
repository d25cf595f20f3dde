import type { UmboDocument } from '@umbo/core/document';
import type { VersionSummary } from '@umbo/data';
import type { PhotographInfo, ShootInfo, ShootSlice } from '../benchState';
import type { Bench } from './slice';

export function shootSlice(bench: Bench, photograph: PhotographInfo, shoot: ShootInfo): ShootSlice {
  const { get, set, read } = bench;
  return {
    shoot,
    references: null,
    versions: [],
    versionId: null,
    async compareWith(versionId) {
      try {
        const { document: version } = await read<{ document: UmboDocument }>(`/api/versions/${versionId}`);
        bench.engine?.setVersion(version);
        set({ versionId });
        const { compare } = get().look;
        get().setLook({ against: { kind: 'version' }, compare: compare === 'after' ? 'wipe' : compare });
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
    addMaskPicture(mask) {
      const now = get().shoot;
      set({ shoot: { ...now, masks: [...now.masks, mask] } });
      bench.engine?.addOther(mask);
    },
  };
}
