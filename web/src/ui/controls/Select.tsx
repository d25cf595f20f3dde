'use client';
import { ChevronDown } from 'lucide-react';
import { Button as AriaButton, Label, ListBox, ListBoxItem, Select as AriaSelect, SelectValue } from 'react-aria-components';
import styled from 'styled-components';
import { face } from './face';
import { Floating } from './Floating';

const Options = styled(ListBox)`
  padding: 3px;
  outline: none;
  font-size: 12px;
  line-height: 16px;
`;
const Option = styled(ListBoxItem)`
  padding: 4px 10px;
  border-radius: 2px;
  cursor: default;
  outline: none;
  &[data-selected] {
    font-weight: 650;
  }
  &[data-focused] {
    background: var(--ink);
    color: var(--on-ink);
  }
`;
const SelectButton = styled(AriaButton)`
  ${face} justify-content: space-between;
  width: 100%;
  font-weight: 400;
`;
const SelectBox = styled(AriaSelect)`
  display: flex;
  align-items: center;
  gap: 8px;
  min-width: 0;
  > button {
    flex: 1;
    min-width: 0;
  }
`;

/** One of many, in a list that opens; arrow keys step through without opening it. */
export function Select<T extends string>(props: {
  label: string;
  hideLabel?: boolean;
  value: T;
  options: readonly (readonly [T, string])[];
  onChange: (value: T) => void;
  /** While nothing is chosen. */
  placeholder?: string;
}) {
  return (
    <SelectBox
      value={props.value}
      onChange={(key) => key !== null && props.onChange(key as T)}
      {...(props.hideLabel ? { 'aria-label': props.label } : {})}
      {...(props.placeholder ? { placeholder: props.placeholder } : {})}
    >
      {!props.hideLabel && <Label>{props.label}</Label>}
      <SelectButton>
        <SelectValue />
        <ChevronDown size={14} aria-hidden />
      </SelectButton>
      <Floating>
        <Options>
          {props.options.map(([id, text]) => (
            <Option key={id} id={id}>
              {text}
            </Option>
          ))}
        </Options>
      </Floating>
    </SelectBox>
  );
}
