'use client';
import { useRef, useState, type KeyboardEvent, type Ref } from 'react';
import styled from 'styled-components';
import { parseNumber } from '../parseNumber';
import type { NumberRange } from './numberRange';

const Field = styled.input`
  width: 58px;
  height: 22px;
  padding: 0 3px;
  text-align: right;
  border: 1px solid transparent;
  border-radius: var(--radius);
  background: none;
  font: 400 11px/16px var(--mono);
  letter-spacing: -0.02em;
  &:hover {
    border-color: var(--line);
  }
  &:focus {
    border-color: var(--edge);
    background: var(--raised);
    outline: 2px solid var(--ink);
    outline-offset: 0;
  }
`;

interface Props {
  /** What the number is of, for those who do not see what stands beside it. */
  name: string;
  value: number;
  range: NumberRange;
  width?: number;
  onCommit: (value: number) => void;
  input?: Ref<HTMLInputElement>;
}

/** Gives the keys back: to the popover around the field, which Escape closes, or to the page. */
function leave(field: HTMLInputElement): void {
  field.blur();
  field.closest<HTMLElement>('[role=dialog]')?.focus();
}

/** A number that can be typed, as a sum as well, and stepped by arrow keys. */
export function NumberText({ name, value, range, width, onCommit, input }: Props) {
  const [typed, showTyped] = useState<string | null>(null);
  // Beside the state: leaving the field follows at once on the key that ends the typing, before anything is drawn again.
  const typing = useRef<string | null>(null);
  const setTyped = (text: string | null): void => {
    typing.current = text;
    showTyped(text);
  };
  const enter = (): void => {
    if (typing.current === null) return;
    const entered = parseNumber(typing.current);
    setTyped(null);
    if (entered !== null) onCommit(range.settle(entered));
  };
  const press = (event: KeyboardEvent<HTMLInputElement>): void => {
    event.stopPropagation();
    if (event.key === 'Enter') leave(event.currentTarget);
    else if (event.key === 'Escape') {
      setTyped(null);
      leave(event.currentTarget);
    } else if (event.key === 'ArrowUp' || event.key === 'ArrowDown') {
      event.preventDefault();
      setTyped(null);
      onCommit(range.stepped(value, event));
    }
  };
  return (
    <Field
      ref={input}
      aria-label={`${name}, number`}
      value={typed ?? range.words(value)}
      style={width === undefined ? undefined : { width }}
      onFocus={(event) => event.target.select()}
      onChange={(event) => setTyped(event.target.value)}
      onBlur={enter}
      onKeyDown={press}
    />
  );
}
