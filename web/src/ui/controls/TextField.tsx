'use client';
import { Input, Label, TextArea, TextField as AriaTextField } from 'react-aria-components';
import styled from 'styled-components';

export const TextInput = styled(Input)`
  width: 100%;
  min-height: 28px;
  padding: 3px 8px;
  border: 1px solid var(--edge);
  border-radius: var(--radius);
  background: var(--raised);
`;
const TextBox = styled(AriaTextField)`
  display: grid;
  gap: 4px;
`;
/** @param props.lines more than one: for longer texts */
export function TextField(props: { label: string; value: string; onChange: (value: string) => void; autoFocus?: boolean; lines?: number }) {
  return (
    <TextBox value={props.value} onChange={props.onChange} autoFocus={props.autoFocus ?? false}>
      <Label>{props.label}</Label>
      {props.lines ? (
        <TextInput as={TextArea} rows={props.lines} style={{ resize: 'vertical' }} />
      ) : (
        // What is there is replaced by typing, where one is asked for it.
        <TextInput onFocus={(event) => props.autoFocus && event.target.select()} />
      )}
    </TextBox>
  );
}
