'use client';
import { AlertTriangle, Download, Trash2, X } from 'lucide-react';
import styled from 'styled-components';
import type { HandOverSummary } from '@umbo/data';
import { IconButton, LinkButton } from '@/ui/controls/Button';
import { Hint } from '@/ui/controls/Hint';
import { Num } from '@/ui/controls/Num';
import { Progress } from '@/ui/controls/Progress';
import { waitsWords } from '@/ui/waits';
import { request } from '@/ui/request';
import { describeBytes, describeOptions } from './options';

const Row = styled.li`
  display: grid;
  grid-template-columns: minmax(0, 1.4fr) minmax(0, 1.3fr) minmax(0, 1fr) auto;
  gap: 4px 18px;
  align-items: center;
  padding: 9px 2px;
  border-bottom: 1px solid var(--line);
  min-height: 50px;
  b {
    font-weight: 600;
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
    display: block;
  }
  span {
    color: var(--ink2);
  }
  .actions {
    display: flex;
    gap: 6px;
    justify-content: flex-end;
    min-width: 138px;
  }
`;

/** One hand-over with its progress and, once done, its file. */
export function HandOverRow({ item, refresh }: { item: HandOverSummary; refresh: () => Promise<void> }) {
  const { id, state, options } = item;
  const act = (method: 'POST' | 'DELETE', path: string): void => void request(method, path).finally(refresh);
  const active = state === 'queued' || state === 'running';
  return (
    <Row>
      <div style={{ minWidth: 0 }}>
        <b title={options.fileName}>{options.fileName}</b>
        <span>{item.shoot}</span>
      </div>
      <span>
        {describeOptions(options)}
        <br />
        <Num>
          {item.width} × {item.height}
        </Num>
      </span>
      <div>
        {state === 'running' && <Progress label={`Rendering ${options.fileName}`} share={item.progress} />}
        {state === 'queued' && waitsWords(item.waits)}
        {state === 'done' && <Num>{describeBytes(item.bytes ?? 0)}</Num>}
        {state === 'cancelled' && 'cancelled'}
        {state === 'failed' && (
          <>
            <AlertTriangle size={13} aria-hidden /> failed: {item.error}
          </>
        )}
      </div>
      <div className="actions">
        {state === 'done' && (
          <LinkButton $primary href={`/api/hand-overs/${id}/file`} download={options.fileName}>
            <Download size={14} strokeWidth={1.5} aria-hidden /> Download
          </LinkButton>
        )}
        {active ? (
          <Hint text="Cancel">
            <IconButton aria-label={`Cancel ${options.fileName}`} onPress={() => act('POST', `/api/hand-overs/${id}/cancel`)}>
              <X size={14} />
            </IconButton>
          </Hint>
        ) : (
          <Hint text="Remove from the list">
            <IconButton aria-label={`Remove ${options.fileName}`} onPress={() => act('DELETE', `/api/hand-overs/${id}`)}>
              <Trash2 size={14} strokeWidth={1.5} />
            </IconButton>
          </Hint>
        )}
      </div>
    </Row>
  );
}
