/**
 * How an edit is kept, as a state machine: what happens leads to another state and to what is to be done. It sends changes in order until
 * they are acknowledged, joins them with what is newer on the server, and asks where it cannot. It does nothing itself; `keeper.ts` does.
 */
import { faultOf, mergeDocuments, patch, sameValue, type Side, type UmboDocument } from '@umbo/core/document';
import type { Accepted, Base, Batch, DocumentState, SinceState } from '@umbo/data';
import { joined, labelOf, onTopOf, stepBetween, type Sides } from './joining';
import { acknowledged, batchOf, emptyOutbox, isEmptyOutbox, sealed, unsent, waiting, withSteps, type Outbox, type Step } from './outbox';
import type { SetAside } from './setAside';

const SEND_AFTER_MS = 250;
export const RETRY_MS = [1000, 2000, 4000, 8000];

export type KeepStatus = { state: 'kept' } | { state: 'keeping' } | { state: 'waiting' | 'refused'; reason: string };

/** Two edits that began from the same state and cannot be joined without a decision. */
export interface Conflict {
  /** What both sides changed: names of layers, and what else there is. */
  names: string[];
  /** Why both together are no sound edit; null when it is about single settings. */
  fault: string | null;
  /** Whether `mine` is what an earlier window left behind, and `theirs` what is here now; else this window's and another one's. */
  found: boolean;
}

/** What the window is to show from now on. */
export interface Followed {
  /** The server's state; null: what is there stays, and the steps come on top. */
  state: DocumentState | null;
  steps: readonly Step[];
  /** The edit after them. */
  document: UmboDocument;
  why: 'newer' | 'joined' | 'decided' | 'restored' | 'set aside';
}

/** What went wrong with a request; status 0 when there was no answer. */
export interface Refusal extends Error {
  status: number;
}

/** Two sides that somebody has to decide between: ours and the server's, or what an earlier window left and what is here. */
type Question = { asked: Conflict | null } & ({ of: 'server'; theirs: SinceState } | { of: 'orphan'; name: string; left: Outbox });

export interface KeepState {
  readonly database: string;
  readonly outbox: Outbox;
  /** Whether a batch is under way, or what is done about its answer. */
  readonly isSending: boolean;
  /** How often in a row the server could not be reached. */
  readonly failures: number;
  /** Why nothing is sent: a refusal, or a question that is not answered. */
  readonly stopped: 'refused' | 'asked' | null;
  /** Whether something of an earlier window is being taken over. */
  readonly isRecovering: boolean;
  /** Whether the browser could not keep its copy. */
  readonly isUnkept: boolean;
  /** Whether changes are sent one by one, because the server refuses one of them. */
  readonly oneByOne: boolean;
  readonly questions: readonly Question[];
  readonly isClosed: boolean;
}

export const beginKeeping = (database: string, initial: DocumentState, next: string): KeepState => ({
  ...{ database, outbox: emptyOutbox(initial, next), isSending: false, failures: 0, stopped: null, isRecovering: false },
  ...{ isUnkept: false, oneByOne: false, questions: [], isClosed: false },
});

/** Whether nothing of this window is under way or waits. */
export const isIdle = ({ outbox, isSending, isClosed }: KeepState): boolean => isEmptyOutbox(outbox) && !isSending && !isClosed;

/** Why the server's state is read while a batch is under way. */
type ReadFor = { why: 'repeated'; revision: number } | { why: 'clash' } | { why: 'refused' };

export type KeepEvent =
  | { type: 'push'; step: Step; document: UmboDocument }
  /** It is time to send what waits. */
  | { type: 'send' }
  /** What waits is to be one batch, which somebody else sends. */
  | { type: 'seal' }
  | { type: 'accepted'; accepted: Accepted }
  | { type: 'failed'; problem: Refusal }
  | { type: 'read'; state: SinceState; for: ReadFor }
  /** A change that the server refuses is kept in the browser. */
  | { type: 'set aside' }
  | { type: 'written' }
  | { type: 'unwritten'; error: Error }
  /** What is on the server, as it was asked for while nothing was under way here and the window had revision `base`. */
  | { type: 'newer'; state: SinceState; base: number; why: 'newer' | 'restored' }
  | { type: 'decide'; side: Side }
  /** What an earlier window left is being looked at; it goes on from what is here; it is to be joined. */
  | { type: 'recovering' }
  | { type: 'take over'; name: string; left: Outbox }
  | { type: 'orphan'; name: string; left: Outbox }
  /** Nothing of earlier windows is left; or not all of it could be looked at. */
  | { type: 'recovered' }
  | { type: 'unrecovered' }
  | { type: 'close' };

export type Effect =
  /** Keeps the outbox in the browser, in the place of one that was taken over. */
  | { type: 'write'; outbox: Outbox; instead: string | undefined }
  | { type: 'send'; batch: Batch }
  | { type: 'read'; base: Base; for: ReadFor }
  | { type: 'set aside'; change: SetAside }
  /** Sends later, and not when it was to be sent; or not at all. */
  | { type: 'later'; ms: number }
  | { type: 'call off' }
  | { type: 'status'; status: KeepStatus }
  | { type: 'follow'; followed: Followed }
  | { type: 'conflict'; conflict: Conflict | null }
  | { type: 'tell'; revision: number }
  | { type: 'tell asides' }
  /** Whoever waits until all is kept need not wait any longer. */
  | { type: 'settle'; error?: Error }
  /** The work on what an earlier window left is done. */
  | { type: 'release'; name: string };

/** A state on its way, and what is to be done. */
interface Turn {
  state: KeepState;
  readonly effects: Effect[];
  readonly newId: () => string;
}

/** @returns the state after an event, and what is to be done, in its order */
export function advance(before: KeepState, event: KeepEvent, newId: () => string): [KeepState, readonly Effect[]] {
  const turn: Turn = { state: before, effects: [], newId };
  happen(turn, event);
  return [turn.state, turn.effects];
}

function happen(turn: Turn, event: KeepEvent): void {
  switch (event.type) {
    case 'push':
      return push(turn, event.step, event.document);
    case 'send':
      return send(turn);
    case 'seal':
      return put(turn, sealed(turn.state.outbox, turn.newId()));
    case 'accepted':
      if (event.accepted.repeated) return read(turn, { why: 'repeated', revision: event.accepted.revision });
      return arrived(turn, event.accepted.revision, null);
    case 'failed':
      return failed(turn, event.problem);
    case 'set aside':
      return read(turn, { why: 'refused' });
    case 'read':
      if (event.for.why === 'repeated') return arrived(turn, event.for.revision, event.state);
      if (event.for.why === 'clash') join(turn, event.state);
      else goOnWithout(turn, event.state);
      return ended(turn);
    case 'written':
      return change(turn, { isUnkept: false });
    case 'unwritten':
      return unwritten(turn, event.error);
    case 'newer':
      return newer(turn, event);
    case 'decide':
      decide(turn, event.side);
      return send(turn);
    case 'recovering':
      change(turn, { isRecovering: true });
      return say(turn, { state: 'keeping' });
    case 'take over':
      return takeOver(turn, event.name, event.left);
    case 'orphan':
      return void joinOrAsk(turn, { of: 'orphan', name: event.name, left: event.left, asked: null });
    case 'recovered':
      change(turn, { isRecovering: false });
      if (!turn.state.stopped && isEmptyOutbox(turn.state.outbox)) send(turn);
      return;
    case 'unrecovered':
      if (isEmptyOutbox(turn.state.outbox) && !turn.state.stopped)
        say(turn, { state: 'waiting', reason: 'Changes of an earlier window are still in this browser only; trying again.' });
      return;
    case 'close':
      change(turn, { isClosed: true });
      return void turn.effects.push({ type: 'call off' });
  }
}

const change = (turn: Turn, values: Partial<KeepState>): void => void (turn.state = { ...turn.state, ...values });
const say = ({ effects }: Turn, status: KeepStatus): void => void effects.push({ type: 'status', status });
const put = (turn: Turn, outbox: Outbox, instead?: string): void => {
  change(turn, { outbox });
  turn.effects.push({ type: 'write', outbox, instead });
};
const read = ({ state, effects }: Turn, readFor: ReadFor): void =>
  void effects.push({ type: 'read', base: { base: state.outbox.base, after: state.outbox.baseBatch }, for: readFor });

function push(turn: Turn, step: Step, document: UmboDocument): void {
  put(turn, withSteps(turn.state.outbox, [step], document));
  const { stopped, failures, isSending } = turn.state;
  // While the server is away, what was said of that stands.
  if (stopped || failures > 0) return;
  say(turn, { state: 'keeping' });
  if (!isSending) turn.effects.push({ type: 'later', ms: SEND_AFTER_MS });
}

function send(turn: Turn): void {
  const { isSending, stopped, isClosed, outbox, isRecovering, oneByOne, failures, database } = turn.state;
  turn.effects.push({ type: 'call off' });
  if (isSending || stopped || isClosed) return;
  if (isEmptyOutbox(outbox)) {
    if (isRecovering) return;
    change(turn, { oneByOne: false });
    say(turn, { state: 'kept' });
    turn.effects.push({ type: 'settle' });
    return;
  }
  if (!outbox.sent) put(turn, sealed(outbox, turn.newId(), oneByOne ? 1 : undefined));
  change(turn, { isSending: true });
  if (failures === 0) say(turn, { state: 'keeping' });
  turn.effects.push({ type: 'send', batch: batchOf(turn.state.outbox, database) });
}

/** A batch and its answer are dealt with: the next one follows, unless the server is away. */
function ended(turn: Turn): void {
  change(turn, { isSending: false });
  if (turn.state.failures === 0) send(turn);
}

/** @param state the server's, where the batch had arrived before: then it may have held more than the browser kept of a window that is gone */
function arrived(turn: Turn, revision: number, state: SinceState | null): void {
  put(turn, acknowledged(turn.state.outbox, revision));
  change(turn, { failures: 0 });
  if (state && !sameValue(state.document, turn.state.outbox.baseDocument)) join(turn, state);
  turn.effects.push({ type: 'tell', revision });
  ended(turn);
}

function failed(turn: Turn, problem: Refusal): void {
  const { outbox, failures, isUnkept } = turn.state;
  if (problem.status === 409) {
    // Known not to have arrived: the server remembers the batches that did.
    change(turn, { outbox: unsent(outbox) });
    return read(turn, { why: 'clash' });
  }
  if (problem.status === 400 && outbox.sent) return refused(turn, problem, outbox.sent.count);
  if (problem.status === 0 || problem.status >= 500) {
    const safety = isUnkept ? 'This browser could not keep a copy: leave the window open' : 'Your changes are safe in this browser';
    say(turn, { state: 'waiting', reason: `${problem.message} ${safety}; trying again.` });
    turn.effects.push({ type: 'later', ms: RETRY_MS[Math.min(failures, RETRY_MS.length - 1)]! });
    change(turn, { failures: failures + 1 });
  } else {
    change(turn, { stopped: 'refused' });
    say(turn, { state: 'refused', reason: problem.message });
    turn.effects.push({ type: 'settle', error: problem });
  }
  ended(turn);
}

/** Looks for the change that the server refuses, and sets it aside. */
function refused(turn: Turn, problem: Refusal, count: number): void {
  change(turn, { outbox: unsent(turn.state.outbox) });
  if (count > 1) {
    change(turn, { oneByOne: true });
    return ended(turn);
  }
  const { outbox } = turn.state;
  const [step] = waiting(outbox) as [Step, ...Step[]];
  const { document } = outbox;
  turn.effects.push({ type: 'set aside', change: { id: turn.newId(), label: labelOf(step), reason: problem.message, document } });
}

/** Goes on with what was done before and after the change that was set aside; what was done with it goes, too. */
function goOnWithout(turn: Turn, theirs: SinceState): void {
  const { outbox } = turn.state;
  const [step, ...steps] = waiting(outbox) as [Step, ...Step[]];
  const base = patch(outbox.baseDocument, step.patches);
  const both = mergeDocuments(base, outbox.document, theirs.document, 'theirs').document;
  const sides = { base, steps, theirs: theirs.document };
  const [made, document] = onTopOf(sides, faultOf(both) ? theirs.document : both, turn.newId, 'theirs');
  change(turn, { oneByOne: false });
  put(turn, withSteps(emptyOutbox(theirs, turn.newId()), made, document));
  turn.effects.push({ type: 'follow', followed: { state: theirs, steps: made, document, why: 'set aside' } }, { type: 'tell asides' });
}

function unwritten(turn: Turn, error: Error): void {
  change(turn, { isUnkept: true });
  if (!isEmptyOutbox(turn.state.outbox))
    say(turn, { state: 'waiting', reason: `This browser could not keep a copy (${error.message}). Leave the window open.` });
}

/** Shows what is newer on the server, if still nothing is under way here; else our own next batch meets it and is joined. */
function newer(turn: Turn, { state, base, why }: Extract<KeepEvent, { type: 'newer' }>): void {
  if (!isIdle(turn.state) || turn.state.stopped === 'asked' || turn.state.outbox.base !== base) return;
  if (state.anotherPast) return join(turn, state);
  if (state.revision <= base) return;
  put(turn, emptyOutbox(state, turn.newId()));
  turn.effects.push({ type: 'follow', followed: { state, steps: [], document: state.document, why } });
}

/** Joins what is ours with a newer state of the server, or asks. */
function join(turn: Turn, theirs: SinceState): void {
  change(turn, { failures: 0 });
  if (joinOrAsk(turn, { of: 'server', theirs, asked: null })) return;
  change(turn, { stopped: 'asked' });
  say(turn, { state: 'waiting', reason: 'Changed in another window, too.' });
  const words = 'The photograph was changed in another window, too. Decide first which version goes on.';
  turn.effects.push({ type: 'settle', error: new Error(words) });
}

/** What an earlier window left and began from what is here goes on at once. */
function takeOver(turn: Turn, name: string, left: Outbox): void {
  const steps = waiting(left);
  const { sent, sentDocument, document } = left;
  put(turn, { ...withSteps(turn.state.outbox, steps, document), sent, sentDocument }, name);
  turn.effects.push({ type: 'follow', followed: { state: null, steps, document, why: 'restored' } }, { type: 'later', ms: 0 });
}

/** The two sides of a question, with what was done since it was asked. */
function sidesOf({ outbox }: KeepState, question: Question): Sides {
  if (question.of === 'orphan') {
    const { left } = question;
    return { base: left.baseDocument, steps: waiting(left), ours: left.document, theirs: outbox.document, apart: null };
  }
  const { document, anotherPast } = question.theirs;
  const apart = anotherPast ? 'the database was set back to an earlier state meanwhile' : null;
  return { base: outbox.baseDocument, steps: waiting(outbox), ours: outbox.document, theirs: document, apart };
}

/** Makes steps, which lead from the other side of a question to `document`, part of the edit. */
function answer(turn: Turn, question: Question, steps: readonly Step[], document: UmboDocument): void {
  if (question.of === 'orphan') {
    put(turn, withSteps(turn.state.outbox, steps, document), question.name);
    const followed: Followed = { state: null, steps, document, why: 'restored' };
    turn.effects.push({ type: 'follow', followed }, { type: 'later', ms: 0 }, { type: 'release', name: question.name });
    return;
  }
  const { theirs } = question;
  const why = turn.state.stopped === 'asked' ? 'decided' : steps.length === 0 ? 'newer' : 'joined';
  change(turn, { stopped: null });
  put(turn, withSteps(emptyOutbox(theirs, turn.newId()), steps, document));
  turn.effects.push({ type: 'follow', followed: { state: theirs, steps, document, why } });
}

/** @returns whether it was joined without asking */
function joinOrAsk(turn: Turn, question: Question): boolean {
  const sides = sidesOf(turn.state, question);
  const { document, conflicts, fault } = joined(sides);
  if (conflicts.length === 0 && !fault) {
    answer(turn, question, ...onTopOf(sides, document, turn.newId));
    return true;
  }
  change(turn, { questions: [...turn.state.questions, question] });
  if (turn.state.questions.length === 1) ask(turn);
  return false;
}

/** Asks the first question. @returns whether there is more to ask than was asked before */
function ask(turn: Turn): boolean {
  const [question, ...others] = turn.state.questions as [Question, ...Question[]];
  const { conflicts, fault } = joined(sidesOf(turn.state, question));
  const conflict: Conflict = { names: conflicts, fault, found: question.of === 'orphan' };
  const { asked } = question;
  const more = !asked || conflict.fault !== asked.fault || conflicts.some((name) => !asked.names.includes(name));
  change(turn, { questions: [{ ...question, asked: conflict }, ...others] });
  if (more) turn.effects.push({ type: 'conflict', conflict });
  return more;
}

/** Both versions become entries of the history; the one that was chosen is the last. */
function decide(turn: Turn, side: Side): void {
  const [question, ...others] = turn.state.questions;
  // What was done while the question stood may be another question.
  if (!question || ask(turn)) return;
  change(turn, { questions: others });
  const sides = sidesOf(turn.state, question);
  const { ours, theirs, apart } = sides;
  const joinedAs = (preferred: Side): UmboDocument => {
    const { document, fault } = joined(sides, preferred);
    return fault ? (preferred === 'mine' ? ours : theirs) : document;
  };
  const step = (label: string, from: UmboDocument, to: UmboDocument): Step[] => stepBetween(turn.newId(), label, from, to);
  const [steps, mine] = apart ? [step('What this window had', theirs, ours), ours] : onTopOf(sides, joinedAs('mine'), turn.newId);
  if (side === 'mine') answer(turn, question, steps, mine);
  else {
    const chosen = joinedAs('theirs');
    answer(turn, question, [...steps, ...step(apart ? 'What the database has' : 'The other window’s version', mine, chosen)], chosen);
  }
  if (others.length > 0) ask(turn);
  else turn.effects.push({ type: 'conflict', conflict: null });
}
