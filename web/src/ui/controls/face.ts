import { css } from 'styled-components';

/** How buttons look. */
export const face = css`
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
export const filled = css`
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
