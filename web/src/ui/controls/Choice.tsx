'use client';
import { ToggleButton, ToggleButtonGroup } from 'react-aria-components';
import styled from 'styled-components';

const Group = styled(ToggleButtonGroup)`
  display: flex;
  border: 1px solid var(--line);
  border-radius: var(--radius);
  overflow: hidden;
  background: var(--raised);
`;
const GroupButton = styled(ToggleButton)`
  flex: 1;
  min-height: 24px;
  padding: 2px 9px;
  border: 0;
  border-right: 1px solid var(--line);
  background: none;
  white-space: nowrap;
  cursor: default;
  &:last-child {
    border-right: 0;
  }
  &[data-hovered] {
    background: var(--well);
  }
  &[data-selected] {
    background: var(--ink);
    color: var(--on-ink);
  }
  &[data-disabled] {
    color: var(--edge);
  }
  &[data-focus-visible] {
    outline-offset: -3px;
  }
  &[data-selected][data-disabled] {
    background: var(--track);
    color: var(--ink);
  }
  &[data-selected][data-focus-visible] {
    outline-color: var(--on-ink);
  }
`;

/** One of a few, all in sight. */
export function Choice<T extends string>(props: {
  label: string;
  value: T;
  options: readonly (readonly [T, string])[];
  onChange: (value: T) => void;
  isDisabled?: boolean;
}) {
  return (
    <Group
      aria-label={props.label}
      selectionMode="single"
      disallowEmptySelection
      isDisabled={props.isDisabled ?? false}
      selectedKeys={[props.value]}
      onSelectionChange={(keys) => {
        const [key] = keys;
        if (key !== undefined) props.onChange(key as T);
      }}
    >
      {props.options.map(([id, text]) => (
        <GroupButton key={id} id={id}>
          {text}
        </GroupButton>
      ))}
    </Group>
  );
}
