'use client';
/** The application's controls: React Aria's behaviour in Umbo's look. */
import type { ReactNode } from 'react';
import {
  Button as AriaButton,
  Dialog as AriaDialog,
  Heading,
  Label,
  ListBox,
  ListBoxItem,
  Menu as AriaMenu,
  MenuItem as AriaMenuItem,
  MenuSection as AriaMenuSection,
  Header,
  Separator,
  Modal,
  ModalOverlay,
  Popover,
  Select as AriaSelect,
  SelectValue,
  Switch as AriaSwitch,
  TextArea,
  TextField as AriaTextField,
  Input,
  ToggleButton,
  ToggleButtonGroup,
  Tooltip as AriaTooltip,
  TooltipTrigger,
  type Key,
} from 'react-aria-components';
import { ChevronDown } from 'lucide-react';
import styled, { css } from 'styled-components';

const face = css`
  display: inline-flex;
  align-items: center;
  justify-content: center;
  gap: 6px;
  min-height: 26px;
  padding: 3px 10px;
  border: 1px solid var(--line);
  border-radius: var(--radius);
  background: var(--raised);
  color: var(--ink);
  cursor: default;
  white-space: nowrap;
  text-decoration: none;
  &[data-hovered],
  &:hover {
    border-color: var(--edge);
  }
  &[data-pressed] {
    background: var(--well);
  }
  &[data-disabled] {
    color: var(--edge);
    border-color: var(--line);
  }
`;
const filled = css`
  background: var(--ink);
  color: var(--on-ink);
  border-color: var(--ink);
  font-weight: 600;
  &[data-pressed] {
    background: var(--ink2);
  }
  &[data-disabled] {
    background: var(--track);
    border-color: var(--track);
    color: var(--panel);
  }
`;

export const Button = styled(AriaButton)<{ $primary?: boolean }>`
  ${face} ${(p) => p.$primary && filled}
`;

export const IconButton = styled(AriaButton)`
  ${face} width: 28px;
  min-height: 26px;
  padding: 0;
  flex: none;
`;

/** An icon without a frame, for places with many of them. */
export const BareButton = styled(AriaButton)`
  width: 22px;
  height: 22px;
  flex: none;
  padding: 0;
  border: 0;
  background: none;
  display: grid;
  place-items: center;
  border-radius: 2px;
  &[data-hovered] {
    background: var(--well);
  }
`;

/** A link that looks like a button. */
export const LinkButton = styled.a<{ $primary?: boolean }>`
  ${face} ${(p) => p.$primary && filled}
`;

/** A word under the pointer for what only has an icon. */
export function Hint({ text, children }: { text: string; children: ReactNode }) {
  return (
    <TooltipTrigger delay={500} closeDelay={0}>
      {children}
      <Tip offset={6}>{text}</Tip>
    </TooltipTrigger>
  );
}
const Tip = styled(AriaTooltip)`
  background: var(--ink);
  color: var(--on-ink);
  padding: 2px 8px;
  border-radius: var(--radius);
  font-size: 12px;
  line-height: 18px;
`;

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

const Floating = styled(Popover)`
  background: var(--raised);
  border: 1px solid var(--edge);
  border-radius: var(--radius);
  box-shadow: 0 2px 8px #0004;
  overflow: auto;
  outline: none;
`;
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
}) {
  return (
    <SelectBox
      value={props.value}
      onChange={(key) => key !== null && props.onChange(key as T)}
      {...(props.hideLabel ? { 'aria-label': props.label } : {})}
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

export { Floating };
export const Menu = styled(AriaMenu)`
  padding: 3px;
  outline: none;
  min-width: 140px;
  font-size: 12px;
  line-height: 16px;
` as typeof AriaMenu;
export const MenuItem = styled(AriaMenuItem)`
  padding: 5px 10px;
  border-radius: 2px;
  cursor: default;
  outline: none;
  &[data-focused] {
    background: var(--ink);
    color: var(--on-ink);
  }
  &[data-disabled] {
    color: var(--edge);
  }
`;

const SectionTitle = styled(Header)`
  padding: 6px 10px 2px;
  color: var(--ink2);
  font-size: 11px;
`;
export function MenuSection({ title, children }: { title: string; children: ReactNode }) {
  return (
    <AriaMenuSection>
      <SectionTitle>{title}</SectionTitle>
      {children}
    </AriaMenuSection>
  );
}
export const MenuLine = styled(Separator)`
  border-top: 1px solid var(--line);
  margin: 3px 0;
`;

const SwitchBox = styled(AriaSwitch)`
  display: inline-flex;
  align-items: center;
  gap: 7px;
  cursor: default;
  > i {
    width: 22px;
    height: 12px;
    border: 1px solid var(--edge);
    border-radius: 6px;
    background: var(--raised);
    position: relative;
    flex: none;
  }
  > i::after {
    content: '';
    position: absolute;
    left: 1px;
    top: 1px;
    width: 8px;
    height: 8px;
    border-radius: 50%;
    background: var(--edge);
  }
  &[data-selected] > i {
    background: var(--ink);
    border-color: var(--ink);
  }
  &[data-selected] > i::after {
    left: 11px;
    background: var(--on-ink);
  }
  &[data-disabled] {
    color: var(--edge);
    > i {
      opacity: 0.5;
    }
  }
  &[data-focus-visible] {
    outline: 2px solid var(--ink);
    outline-offset: 2px;
    border-radius: var(--radius);
  }
`;
export function Switch(props: { children: ReactNode; value: boolean; onChange: (value: boolean) => void; isDisabled?: boolean }) {
  return (
    <SwitchBox isSelected={props.value} onChange={props.onChange} isDisabled={props.isDisabled ?? false}>
      <i aria-hidden />
      {props.children}
    </SwitchBox>
  );
}

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
      {props.lines ? <TextInput as={TextArea} rows={props.lines} style={{ resize: 'vertical' }} /> : <TextInput />}
    </TextBox>
  );
}

const Backdrop = styled(ModalOverlay)`
  position: fixed;
  inset: 0;
  z-index: 50;
  background: #0007;
  display: grid;
  place-items: center;
`;
const Sheet = styled(Modal)`
  max-height: calc(100vh - 48px);
  overflow: auto;
  background: var(--panel);
  border: 1px solid var(--edge);
  border-radius: var(--radius);
  box-shadow: 0 6px 24px #0006;
`;
const SheetBody = styled(AriaDialog)`
  display: grid;
  gap: 14px;
  padding: 18px 20px 20px;
  outline: none;
`;
const Title = styled(Heading)`
  font: 650 16px/22px var(--sans);
`;

/** A dialog for what is not editing: names, hand-over, questions. */
export function Dialog(props: {
  title: string;
  isOpen: boolean;
  onClose: () => void;
  children: ReactNode;
  role?: 'dialog' | 'alertdialog';
  /** Pixels, where the screen has them. */
  width?: number;
}) {
  return (
    <Backdrop isOpen={props.isOpen} onOpenChange={(open) => !open && props.onClose()} isDismissable={props.role !== 'alertdialog'}>
      <Sheet style={{ width: `min(${props.width ?? 440}px, calc(100vw - 48px))` }}>
        <SheetBody role={props.role ?? 'dialog'}>
          <Title slot="title">{props.title}</Title>
          {props.children}
        </SheetBody>
      </Sheet>
    </Backdrop>
  );
}
export const DialogActions = styled.div`
  display: flex;
  justify-content: flex-end;
  gap: 8px;
  margin-top: 4px;
`;

/** A word and the control it is for, lined up with the sliders. */
export const LabelledLine = styled.div`
  display: grid;
  grid-template-columns: 78px 1fr;
  gap: 8px;
  align-items: center;
  min-height: 28px;
  font-size: 12px;
  line-height: 16px;
`;

/** Numbers in the number type. */
export const Num = styled.span`
  font-family: var(--mono);
  font-size: 0.92em;
  letter-spacing: -0.02em;
  font-variant-numeric: tabular-nums;
`;

const Bar = styled.div`
  height: 5px;
  border-radius: 3px;
  background: var(--well);
  overflow: hidden;
  > i {
    display: block;
    height: 100%;
    background: var(--ink);
  }
`;
export function Progress({ label, share }: { label: string; share: number }) {
  return (
    <Bar role="progressbar" aria-label={label} aria-valuemin={0} aria-valuemax={100} aria-valuenow={Math.round(share * 100)}>
      <i style={{ width: `${share * 100}%` }} />
    </Bar>
  );
}

export type { Key };
