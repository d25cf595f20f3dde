'use client';
import { adjustments, type AdjustmentContent } from '@umbo/core/adjust';
import type { Lab } from '@umbo/core/colour';
import type { Role } from '@umbo/core/document';
import type { CarrySource } from '@umbo/data';
import { useEffect, useMemo, useState } from 'react';
import styled from 'styled-components';
import { countOf } from '@/carry/outcomes';
import { TrialCards } from '@/carry/TrialCards';
import { ALL_OF_IT, useTrial } from '@/carry/useTrial';
import { leftOf } from '@/carry/useCarries';
import { Button } from '@/ui/controls/Button';
import { Dialog, DialogActions } from '@/ui/controls/Dialog';
import { Select } from '@/ui/controls/Select';
import { request } from '@/ui/request';

const Body = styled.div`
  display: grid;
  gap: 12px;
  font-size: 12px;
  line-height: 16px;
  > div:last-child {
    max-height: 420px;
    overflow: auto;
  }
  p {
    color: var(--ink2);
  }
`;
const Line = styled.div`
  display: flex;
  gap: 16px;
  align-items: center;
  p {
    flex: 1;
  }
`;

/** What can be solved for, in the order in which it is offered. */
const BY = adjustments.flatMap((one) => (one.dials ? [[one.kind, one.name] as const] : []));
type By = AdjustmentContent['kind'];

interface Props {
  database: string;
  /** The region, as it is called and what it is of. */
  subject: { name: string; role: Role | null };
  /** What its mean is to become. */
  lab: Lab;
  tolerance: number;
  photographs: readonly number[];
  isOpen: boolean;
  onClose: () => void;
  /** It was asked for, under this id. */
  onDone: (id: string) => void;
}

/** Tries a correction on each photograph that is off, shows what would come of it, and makes those that are wanted. */
export function TogetherDialog(props: Props) {
  return (
    <Dialog title={`Bring ${props.subject.name} together`} isOpen={props.isOpen} onClose={props.onClose} width={820}>
      {props.isOpen && <Form {...props} />}
    </Dialog>
  );
}

function Form({ database, subject, lab, tolerance, photographs, onClose, onDone }: Props) {
  const [by, setBy] = useState<By>('curves');
  const [left, setLeft] = useState<ReadonlySet<number>>(new Set());
  const [problem, setProblem] = useState<string | null>(null);
  const [asking, setAsking] = useState(false);
  const trial = useTrial(null);
  // What is looked at stays what it was when the dialog opened, whatever is measured meanwhile.
  const [meant] = useState({ ...subject, lab, tolerance, photographs });
  const from = useMemo(
    (): CarrySource => ({ kind: 'correction', role: meant.role, name: meant.name, lab: meant.lab, tolerance: meant.tolerance, by }),
    [meant, by],
  );
  const { start, detail } = trial;
  useEffect(() => void start(from, meant.photographs), [start, from, meant]);

  const chosen = meant.photographs.filter((id) => !left.has(id));
  const bring = async (): Promise<void> => {
    setAsking(true);
    try {
      const key = crypto.randomUUID();
      await request('POST', '/api/carries', { key, from, photographs: chosen, choice: ALL_OF_IT, how: 'replace', isTrial: false });
      onDone(key);
    } catch (error) {
      setProblem((error as Error).message);
      setAsking(false);
    }
  };
  const waiting = detail ? leftOf(detail) : meant.photographs.length;
  return (
    <>
      <Body>
        <Line>
          <Select label="By" value={by} options={BY} onChange={setBy} />
          <p role="status">
            {waiting > 0
              ? `Solving ${countOf(meant.photographs.length)}, ${waiting} to go…`
              : 'A layer on the region, solved for each photograph; nothing is changed yet.'}
          </p>
        </Line>
        {(problem ?? trial.problem) && <p role="alert">{problem ?? trial.problem}</p>}
        <div>
          {detail && (
            <TrialCards
              detail={detail}
              database={database}
              strength={1}
              chosen={new Set(chosen)}
              onChoose={(now) => setLeft(new Set(meant.photographs.filter((id) => !now.has(id))))}
            />
          )}
        </div>
      </Body>
      <DialogActions>
        <Button onPress={onClose}>Cancel</Button>
        <Button $primary isDisabled={asking || chosen.length === 0} onPress={() => void bring()}>
          {chosen.length === 1 ? 'Bring one together' : `Bring ${chosen.length} together`}
        </Button>
      </DialogActions>
    </>
  );
}
