'use client';
import type { ReactNode } from 'react';
import { Dialog as AriaDialog, Heading, Modal, ModalOverlay } from 'react-aria-components';
import styled from 'styled-components';

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
