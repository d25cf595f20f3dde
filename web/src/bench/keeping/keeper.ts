/**
 * Keeps the edit: sends every change to the server in order, again and again until it is acknowledged, and joins it with what other
 * windows do. Nothing is ever let go of before it stands somewhere else.
 */
import {
  entryBetween,
  faultOf,
  mergeDocuments,
  newFault,
  patch,
  sameValue,
  type Merged,
  type Side,
  type UmboDocument,
} from '@umbo/core/document';
import type { Accepted, Base, Batch, DocumentState, SinceState } from '@umbo/data';
import {
  acknowledged,
  batchOf,
  emptyOutbox,
  isEmptyOutbox,
  restored,
  sealed,
  unsent,
  waiting,
  withSteps,
  type Outbox,
  type Step,
} from './outbox';
import type { SetAside } from './setAside';
import type { Shelf } from './shelf';

const SEND_AFTER_MS = 250;
/** Steps that are joined with another window's one by one; those before them together with the first. */
const JOINED_ONE_BY_ONE = 40;
const RETRY_MS = [1000, 2000, 4000, 8000];

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

export interface KeeperEvents {
  status: (status: KeepStatus) => void;
  follow: (followed: Followed) => void;
  /** A question to decide; null: it is answered. */
  conflict: (conflict: Conflict | null) => void;
  /** All that is set aside in this browser. */
  aside: (changes: readonly SetAside[]) => void;
}

/** What the keeper needs of the world. */
export interface KeeperPorts {
  /** The database's own id: nothing is ever sent to another one. */
  database: string;
  /** @throws Refusal */
  send: (batch: Batch) => Promise<Accepted>;
  /** The edit as it is, and whether the revision that this window has is none of its history. @throws Refusal */
  read: (base: Base) => Promise<SinceState>;
  /** Tells the other windows of a revision that is on the server. */
  tell: (revision: number) => void;
  shelf: Shelf;
  newId: () => string;
  /** @returns what calls it off */
  after: (ms: number, work: () => void) => () => void;
}

/** What went wrong with a request; status 0 when there was no answer. */
export interface Refusal extends Error {
  status: number;
}

export interface Keeper {
  /** Takes a change; `document` is the edit after it. */
  push: (step: Step, document: UmboDocument) => void;
  /** Resolves when everything is on the server. @throws Error when it cannot be kept */
  settled: () => Promise<void>;
  /** Answers the question that was asked. */
  decide: (side: Side) => void;
  /** The revision that everything unsent begins from. */
  revision: () => number;
  /** Another window got to a revision, or may have (Infinity). */
  heard: (revision: number) => void;
  /** Lets go of a change that was set aside. */
  forget: (id: string) => Promise<void>;
  /** Whether something is not on the server yet. */
  isWaiting: () => boolean;
  /** The batch to send when the page goes away; null when there is none that is not under way already. */
  lastWord: () => Batch | null;
  close: () => void;
}

/** Two sides of a question. `ours` is looked at when it is answered, so that what was done meanwhile is in it. */
interface Question {
  found: boolean;
  /** Why the two cannot be joined, whatever is in them: one of both goes on as a whole. */
  apart: string | null;
  /** What was asked; null before it is this question's turn. */
  asked: Conflict | null;
  base: UmboDocument;
  /** What leads from `base` to `ours`. */
  steps: () => readonly Step[];
  ours: () => UmboDocument;
  theirs: () => UmboDocument;
  /** Makes the steps, which lead from `theirs` to `document`, part of the edit. */
  answer: (steps: readonly Step[], document: UmboDocument) => void;
}

const labelOf = ({ change }: Step): string => (change.type === 'edit' ? change.entry.label : change.to < change.from ? 'Undo' : 'Redo');

export function createKeeper(initial: DocumentState, events: KeeperEvents, ports: KeeperPorts): Keeper {
  const { shelf } = ports;
  let outbox = emptyOutbox(initial, ports.newId());
  let callOff: () => void = () => undefined;
  let sending = false;
  let failures = 0;
  let closed = false;
  /** Why nothing is sent; a refusal, or a question that is not answered. */
  let stopped: 'refused' | 'asked' | null = null;
  /** Whether something of an earlier window is being taken over. */
  let recovering = false;
  /** Whether the browser could not keep its copy. */
  let unkept = false;
  /** How many changes the next batch holds at most: one, while that which the server refuses is looked for. */
  let most: number | undefined;
  const questions: Question[] = [];
  /** Ends the work on what other windows left, which goes back to where it was. */
  const letGo: (() => void)[] = [];
  const waiters: { resolve: () => void; reject: (error: Error) => void }[] = [];

  const settle = (error?: Error): void => {
    for (const { resolve, reject } of waiters.splice(0)) {
      if (error) reject(error);
      else resolve();
    }
  };
  const put = (next: Outbox, instead?: string): void => {
    outbox = next;
    shelf.write(outbox, instead).then(
      () => (unkept = false),
      (error: Error) => {
        unkept = true;
        if (!isEmptyOutbox(outbox))
          events.status({ state: 'waiting', reason: `This browser could not keep a copy (${error.message}). Leave the window open.` });
      },
    );
  };
  const later = (ms: number): void => {
    callOff();
    callOff = ports.after(ms, () => void send());
  };
  const step = (label: string, from: UmboDocument, to: UmboDocument): Step[] => {
    const entry = entryBetween(ports.newId(), label, from, to);
    return entry.patches.length === 0 ? [] : [{ change: { type: 'edit', entry }, patches: entry.patches }];
  };

  const read = (): Promise<SinceState> => ports.read({ base: outbox.base, after: outbox.baseBatch });

  async function send(): Promise<void> {
    callOff();
    if (sending || stopped || closed) return;
    if (!outbox.sent) {
      if (isEmptyOutbox(outbox)) {
        if (recovering) return;
        most = undefined;
        events.status({ state: 'kept' });
        settle();
        return;
      }
      put(sealed(outbox, ports.newId(), most));
    }
    sending = true;
    if (failures === 0) events.status({ state: 'keeping' });
    try {
      const { revision, repeated } = await ports.send(batchOf(outbox, ports.database));
      // The first time it may have held more than the browser kept of a window that is gone.
      const state = repeated ? await read() : null;
      put(acknowledged(outbox, revision));
      failures = 0;
      if (state && !sameValue(state.document, outbox.baseDocument)) join(state);
      ports.tell(revision);
    } catch (error) {
      await recover(error as Refusal).catch((second: Refusal) => recover(second));
    }
    sending = false;
    if (failures === 0) void send();
  }

  async function recover(problem: Refusal): Promise<void> {
    if (problem.status === 409) {
      // Known not to have arrived: the server remembers the batches that did.
      outbox = unsent(outbox);
      join(await read());
    } else if (problem.status === 400 && outbox.sent) {
      await refused(problem, outbox.sent.count);
    } else if (problem.status === 0 || problem.status >= 500) {
      const safety = unkept ? 'This browser could not keep a copy: leave the window open' : 'Your changes are safe in this browser';
      events.status({ state: 'waiting', reason: `${problem.message} ${safety}; trying again.` });
      later(RETRY_MS[Math.min(failures++, RETRY_MS.length - 1)]!);
    } else {
      stopped = 'refused';
      events.status({ state: 'refused', reason: problem.message });
      settle(problem);
    }
  }

  /** Looks for the change that the server refuses, sets it aside, and goes on with what was done before and after it. */
  async function refused(problem: Refusal, count: number): Promise<void> {
    outbox = unsent(outbox);
    if (count > 1) {
      most = 1;
      return;
    }
    const [step] = waiting(outbox) as [Step, ...Step[]];
    await shelf.setAside({ id: ports.newId(), label: labelOf(step), reason: problem.message, document: outbox.document });
    const theirs = await read();
    const question = {
      base: patch(outbox.baseDocument, step.patches),
      steps: () => waiting(outbox).slice(1),
      theirs: () => theirs.document,
    };
    // What was done with what was refused goes with it.
    const joined = mergeDocuments(question.base, outbox.document, theirs.document, 'theirs').document;
    const [steps, document] = onTopOf(question, faultOf(joined) ? theirs.document : joined, 'theirs');
    most = undefined;
    put(withSteps(emptyOutbox(theirs, ports.newId()), steps, document));
    events.follow({ state: theirs, steps, document, why: 'set aside' });
    events.aside(await shelf.asides());
  }

  /** Joins what is ours with a newer state of the server, or asks. */
  function join(theirs: SinceState): void {
    failures = 0;
    const answer: Question['answer'] = (steps, document) => {
      const why = stopped === 'asked' ? 'decided' : steps.length === 0 ? 'newer' : 'joined';
      stopped = null;
      put(withSteps(emptyOutbox(theirs, ports.newId()), steps, document));
      events.follow({ state: theirs, steps, document, why });
    };
    const ours = (): UmboDocument => outbox.document;
    const steps = (): readonly Step[] => waiting(outbox);
    const apart = theirs.anotherPast ? 'the database was set back to an earlier state meanwhile' : null;
    const question = { found: false, apart, asked: null, base: outbox.baseDocument, steps, ours, theirs: () => theirs.document, answer };
    if (joinOrAsk(question)) return;
    stopped = 'asked';
    events.status({ state: 'waiting', reason: 'Changed in another window, too.' });
    settle(new Error('The photograph was changed in another window, too. Decide first which version goes on.'));
  }

  /** Our steps one by one on top of theirs, so that each can still be undone; only the last must be `joined`. */
  function onTopOf(
    { base, steps, theirs }: Pick<Question, 'base' | 'steps' | 'theirs'>,
    joined: UmboDocument,
    side: Side = 'mine',
  ): [Step[], UmboDocument] {
    const ours = steps();
    const first = Math.max(0, ours.length - JOINED_ONE_BY_ONE);
    let document = patch(
      base,
      ours.slice(0, first).flatMap(({ patches }) => patches),
    );
    let at = theirs();
    const made: Step[] = [];
    for (const [i, one] of [...ours.entries()].slice(first)) {
      document = patch(document, one.patches);
      const next = i === ours.length - 1 ? joined : mergeDocuments(base, document, theirs(), side).document;
      made.push(...step(labelOf(one), at, next));
      at = next;
    }
    return [made, ours.length > 0 ? joined : at];
  }

  /** What would come of both; the fault that keeps it from being made, if there is one. */
  function joinedAs({ base, ours, theirs, apart }: Question, side?: Side): Merged & { fault: string | null } {
    const { document, conflicts } = mergeDocuments(base, ours(), theirs(), side);
    return { document, conflicts: apart ? [] : conflicts, fault: apart ?? newFault(document, base) };
  }

  /** @returns whether it was joined without asking */
  function joinOrAsk(question: Question): boolean {
    const { document, conflicts, fault } = joinedAs(question);
    if (conflicts.length === 0 && !fault) {
      question.answer(...onTopOf(question, document));
      return true;
    }
    questions.push(question);
    if (questions.length === 1) ask(question);
    return false;
  }

  /** @returns whether there is more to ask than was asked before */
  function ask(question: Question): boolean {
    const { conflicts, fault } = joinedAs(question);
    const conflict: Conflict = { names: conflicts, fault, found: question.found };
    const { asked } = question;
    const more = !asked || conflict.fault !== asked.fault || conflicts.some((name) => !asked.names.includes(name));
    question.asked = conflict;
    if (more) events.conflict(conflict);
    return more;
  }

  /** Both versions become entries of the history; the one that was chosen is the last. */
  function decide(side: Side): void {
    const [question] = questions;
    // What was done while the question stood may be another question.
    if (!question || ask(question)) return;
    questions.shift();
    const { answer } = question;
    const [ours, theirs] = [question.ours(), question.theirs()];
    const joined = (preferred: Side): UmboDocument => {
      const { document, fault } = joinedAs(question, preferred);
      return fault ? (preferred === 'mine' ? ours : theirs) : document;
    };
    const [steps, mine] = question.apart ? [step('What this window had', theirs, ours), ours] : onTopOf(question, joined('mine'));
    if (side === 'mine') answer(steps, mine);
    else {
      const chosen = joined('theirs');
      answer([...steps, ...step(question.apart ? 'What the database has' : 'The other window’s version', mine, chosen)], chosen);
    }
    if (questions[0]) ask(questions[0]);
    else events.conflict(null);
  }

  const idle = (): boolean => isEmptyOutbox(outbox) && !sending && !closed;

  /** Shows what is newer on the server while nothing is under way here; else our own next batch meets it and is joined. */
  async function catchUp(why: 'newer' | 'restored' = 'newer'): Promise<void> {
    if (!idle()) return;
    const { base } = outbox;
    const state = await read();
    if (!idle() || outbox.base !== base) return;
    if (state.anotherPast) return join(state);
    if (state.revision <= base) return;
    put(emptyOutbox(state, ports.newId()));
    events.follow({ state, steps: [], document: state.document, why });
  }

  /** Takes over what windows that are gone left behind. */
  async function recoverOrphans(): Promise<void> {
    for (const name of await shelf.orphans())
      await shelf.withOrphan(name, async (stored) => {
        recovering = true;
        events.status({ state: 'keeping' });
        let left = restored(stored, ports.newId());
        if (left.base === outbox.base && idle() && !isEmptyOutbox(left)) {
          // Begun from what is here, it goes on at once.
          const steps = waiting(left);
          const { sent, sentDocument } = left;
          put({ ...withSteps(outbox, steps, left.document), sent, sentDocument }, name);
          events.follow({ state: null, steps, document: left.document, why: 'restored' });
          later(0);
          return;
        }
        if (left.sent) {
          // Whether it arrived only the server knows.
          try {
            const { revision } = await ports.send(batchOf(left, ports.database));
            left = acknowledged(left, revision);
          } catch (error) {
            const { status } = error as Refusal;
            if (status === 0 || status >= 500) throw error;
            left = unsent(left);
          }
          await shelf.rewrite(name, isEmptyOutbox(left) ? null : left);
        }
        if (left.base > outbox.base) await catchUp('restored');
        if (isEmptyOutbox(left)) return shelf.rewrite(name, null);
        if (closed) return;
        await new Promise<void>((done) => {
          letGo.push(done);
          const answer: Question['answer'] = (steps, document) => {
            put(withSteps(outbox, steps, document), name);
            events.follow({ state: null, steps, document, why: 'restored' });
            later(0);
            done();
          };
          const theirs = (): UmboDocument => outbox.document;
          const steps = (): readonly Step[] => waiting(left);
          joinOrAsk({ found: true, apart: null, asked: null, base: left.baseDocument, steps, ours: () => left.document, theirs, answer });
        });
      });
  }
  const lookForOrphans = (): void =>
    void recoverOrphans().then(
      () => {
        recovering = false;
        if (!stopped && isEmptyOutbox(outbox)) void send();
      },
      () => {
        if (closed) return;
        if (isEmptyOutbox(outbox) && !stopped)
          events.status({ state: 'waiting', reason: 'Changes of an earlier window are still in this browser only; trying again.' });
        ports.after(RETRY_MS.at(-1)!, lookForOrphans);
      },
    );
  lookForOrphans();
  const tellAsides = (): Promise<void> => shelf.asides().then(events.aside, () => undefined);
  void tellAsides();

  return {
    push(change, document) {
      put(withSteps(outbox, [change], document));
      // While the server is away, what was said of that stands.
      if (stopped || failures > 0) return;
      events.status({ state: 'keeping' });
      if (!sending) later(SEND_AFTER_MS);
    },
    settled() {
      if (idle() && !recovering) return Promise.resolve();
      if (stopped || closed) return Promise.reject(new Error('The changes are not kept yet; see the message at the bottom.'));
      return new Promise((resolve, reject) => {
        waiters.push({ resolve, reject });
        void send();
      });
    },
    decide(side) {
      decide(side);
      void send();
    },
    async forget(id) {
      await shelf.forget(id);
      await tellAsides();
    },
    revision: () => outbox.base,
    heard: (revision) => {
      if (revision > outbox.base) catchUp().catch(() => undefined);
    },
    isWaiting: () => !isEmptyOutbox(outbox),
    lastWord() {
      if (sending || stopped || isEmptyOutbox(outbox)) return null;
      put(sealed(outbox, ports.newId()));
      return batchOf(outbox, ports.database);
    },
    close() {
      closed = true;
      callOff();
      letGo.forEach((done) => done());
      shelf.close();
    },
  };
}
