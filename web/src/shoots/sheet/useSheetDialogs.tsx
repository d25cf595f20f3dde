'use client';
import type { PhotographSummary } from '@umbo/data';
import { useState, type ReactNode } from 'react';
import { CarryDialog } from '@/carry/CarryDialog';
import { BatchDialog } from '@/handOver/BatchDialog';
import { BinDialog } from './BinDialog';
import type { Changes } from './useChanges';

interface SheetDialogs {
  openBin: () => void;
  handOver: (photographs: readonly PhotographSummary[]) => void;
  carry: (what: { from: number | null; to: readonly number[] }) => void;
  dialogs: ReactNode;
}

/** The bin, hand-over and carrying, over the sheet. */
export function useSheetDialogs(database: string, shootId: number, act: Changes['act']): SheetDialogs {
  const [binIsOpen, setBinOpen] = useState(false);
  const [handing, setHanding] = useState<readonly PhotographSummary[] | null>(null);
  const [carrying, setCarrying] = useState<{ from: number | null; to: readonly number[] } | null>(null);
  return {
    openBin: () => setBinOpen(true),
    handOver: setHanding,
    carry: setCarrying,
    dialogs: (
      <>
        <BinDialog shootId={shootId} isOpen={binIsOpen} onClose={() => setBinOpen(false)} act={act} />
        <BatchDialog shootId={shootId} photographs={handing ?? []} isOpen={handing !== null} onClose={() => setHanding(null)} />
        <CarryDialog
          database={database}
          shootId={shootId}
          from={carrying?.from ?? null}
          to={carrying?.to ?? []}
          layers={[]}
          isOpen={carrying !== null}
          onClose={() => setCarrying(null)}
        />
      </>
    ),
  };
}
