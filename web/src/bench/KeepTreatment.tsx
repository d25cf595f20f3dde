'use client';
import { cameFrom } from '@/treatments/onBench';
import { SaveTreatment } from '@/treatments/SaveTreatment';
import { useBench, useBenchStore } from './state/context';

/** Keeps the layers that are meant as a treatment. */
export function KeepTreatment() {
  const store = useBenchStore();
  const layers = useBench((state) => state.treating);
  const document = useBench((state) => state.committed);
  const photograph = useBench((state) => state.photograph);
  const close = (): void => store.getState().set({ treating: null });
  return (
    <SaveTreatment
      photographId={photograph.id}
      document={document}
      layers={layers}
      onClose={close}
      onDone={(kept) => {
        close();
        cameFrom(store.getState(), layers!, kept);
      }}
      kept={() => store.getState().whenKept()}
    />
  );
}
