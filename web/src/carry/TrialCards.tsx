'use client';
import type { CarriedTo, CarryDetail } from '@umbo/data';
import { useCallback, useState } from 'react';
import styled from 'styled-components';
import { PreviewPicture } from '@/shoots/PreviewPicture';
import { Num } from '@/ui/controls/Num';
import { Progress } from '@/ui/controls/Progress';
import { Switch } from '@/ui/controls/Switch';
import { reachedOf, remarksOf, wordsOf } from './outcomes';
import { useFirstPictures } from './useFirstPictures';

const Cards = styled.ul`
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(270px, 1fr));
  gap: 14px;
  list-style: none;
  margin: 0;
  padding: 0;
  font-size: 12px;
  line-height: 16px;
`;
const Card = styled.li`
  display: grid;
  align-content: start;
  gap: 5px;
  min-width: 0;
  ul {
    list-style: none;
    margin: 0;
    padding: 0;
    color: var(--ink2);
  }
  li[data-remark] {
    color: var(--ink);
  }
`;
const Picture = styled.div`
  position: relative;
  height: 210px;
  background: var(--well);
  overflow: hidden;
  > * {
    position: absolute;
    inset: 0;
  }
  img,
  canvas {
    position: absolute;
    inset: 0;
    width: 100%;
    height: 100%;
    object-fit: contain;
  }
  > div {
    display: grid;
    align-content: end;
    padding: 10px;
  }
`;

interface Props {
  detail: CarryDetail;
  database: string;
  /** How strong it acts, 0..1: what was there shows through by as much. */
  strength: number;
  chosen: ReadonlySet<number>;
  onChoose: (chosen: ReadonlySet<number>) => void;
}

/** What would come of each photograph, over what is there now; each is taken along or left out. */
export function TrialCards({ detail, database, strength, chosen, onChoose }: Props) {
  const first = useFirstPictures(detail);
  return (
    <Cards aria-label="What would come of it">
      {detail.to.map((one) => (
        <TrialCard
          key={one.jobId}
          trial={detail.id}
          one={one}
          first={first.get(one.photographId)}
          database={database}
          strength={strength}
          isChosen={chosen.has(one.photographId)}
          onChoose={(on) => onChoose(new Set(on ? [...chosen, one.photographId] : [...chosen].filter((id) => id !== one.photographId)))}
        />
      ))}
    </Cards>
  );
}

interface CardProps {
  trial: string;
  one: CarriedTo;
  /** Its first picture: of what comes along as it is. */
  first: ImageBitmap | undefined;
  database: string;
  strength: number;
  isChosen: boolean;
  onChoose: (on: boolean) => void;
}

/** A picture that was painted in this window. */
function Painted({ picture, label, opacity }: { picture: ImageBitmap; label: string; opacity: number }) {
  const draw = useCallback((canvas: HTMLCanvasElement | null) => canvas?.getContext('2d')?.drawImage(picture, 0, 0), [picture]);
  return <canvas ref={draw} role="img" aria-label={label} width={picture.width} height={picture.height} style={{ opacity }} />;
}

function TrialCard({ trial, one, first, database, strength, isChosen, onChoose }: CardProps) {
  const { photographId, revision, name, state, progress, jobId } = one;
  const [isThere, setThere] = useState(false);
  const isOpen = state === 'queued' || state === 'running';
  const words = [
    ...wordsOf(one, true),
    ...(isOpen && first ? ['A first look: what it needs is still being found on this photograph.'] : []),
  ];
  return (
    <Card aria-label={name}>
      <Picture>
        <PreviewPicture database={database} id={photographId} revision={revision} />
        {state === 'done' && (
          <img
            src={`/api/carries/${trial}/pictures/${jobId}`}
            alt={`${name}, tried`}
            style={{ opacity: strength }}
            onLoad={() => setThere(true)}
          />
        )}
        {first && (isOpen || (state === 'done' && !isThere)) && (
          <Painted picture={first} label={`${name}, as it comes along`} opacity={strength} />
        )}
        {state === 'running' && (
          <div>
            <Progress label={`Trying ${name}`} share={progress} />
          </div>
        )}
      </Picture>
      <Switch value={isChosen} isDisabled={state === 'failed' || state === 'cancelled'} onChange={onChoose}>
        {name}
      </Switch>
      <ul>
        {reachedOf(one).map((line) => (
          <li key={line}>
            <Num>{line}</Num>
          </li>
        ))}
        {words.map((line) => (
          <li key={line} data-remark={remarksOf(one) > 0 || undefined}>
            {line}
          </li>
        ))}
      </ul>
    </Card>
  );
}
