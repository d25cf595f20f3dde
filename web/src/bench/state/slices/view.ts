import { project } from '@umbo/core/base';
import { sameValue } from '@umbo/core/document';
import { stageMapping } from '../../../workers/stageMapping';
import type { PhotographInfo, ViewSlice } from '../benchState';
import { fit, shownFraming, withinReach } from '../view';
import type { Bench } from './slice';

/** Tells the engine what is looked at, and how. */
export function sendLook({ engine, get }: Bench): void {
  const { look, layerId, surround, passingView, lit } = get();
  engine?.setLook({ ...look, maskView: passingView ?? look.maskView, layerId, surround, lit });
}

export function viewSlice(bench: Bench, photograph: PhotographInfo): ViewSlice {
  const { get, set } = bench;
  let stage = { width: 0, height: 0 };
  return {
    look: {
      compare: 'after',
      against: { kind: 'photograph' },
      instead: null,
      blink: 'before',
      peek: { solo: null, upTo: null },
      wipe: 0.5,
      maskView: 'contours',
      difference: 'channels',
      clipped: false,
      proof: null,
    },
    passingView: null,
    proofChoice: null,
    lit: null,
    surround: 117,
    view: { x: 0, y: 0, zoom: 0.1 },
    fitted: true,
    stageWidth: 0,
    resize(width, height) {
      stage = { width, height };
      set({ stageWidth: width });
      bench.engine?.setSize(stage);
      const { fitted, view } = get();
      if (fitted) get().fitView();
      else get().setView(view);
    },
    stageAgain() {
      bench.engine?.setSize(stage);
      get().setView(get().view, get().fitted);
    },
    setView(view, fitted = false) {
      const framing = shownFraming(get());
      const choosing = get().tool === 'crop';
      const next = { ...withinReach(view, framing?.size ?? photograph, stage), framing, choosing };
      set({ view: next, fitted });
      bench.engine?.setView(next);
    },
    fitView() {
      const size = shownFraming(get())?.size ?? photograph;
      get().setView(fit(size, stage, get().look.compare === 'beside' ? 2 : 1), true);
    },
    framingChanged() {
      const { view, fitted } = get();
      const framing = shownFraming(get());
      if (sameValue(framing, view.framing) && view.choosing === (get().tool === 'crop')) return;
      if (fitted) return get().fitView();
      // What was in the middle of the stage stays there.
      const [x, y] = project(stageMapping(view).toPhotograph, stage.width / 2, stage.height / 2);
      const [px, py] = framing ? project(framing.toPicture, x, y) : [x, y];
      get().setView({ ...view, x: stage.width / 2 - px * view.zoom, y: stage.height / 2 - py * view.zoom });
    },
    setLook(look) {
      const before = get().look.compare;
      // What stands in for the result does so only while two pictures are compared.
      const ends = look.compare === 'after' ? { instead: null } : {};
      set({ look: { ...get().look, ...look, ...ends } });
      // Beside each other, each picture has half of the stage.
      if (get().fitted && before !== get().look.compare) get().fitView();
      sendLook(bench);
    },
    setPassingView(passingView) {
      if (passingView === get().passingView) return;
      set({ passingView });
      sendLook(bench);
    },
    setLit(lit) {
      if (lit === get().lit) return;
      set({ lit });
      sendLook(bench);
    },
    setSurround(surround) {
      set({ surround });
      sendLook(bench);
    },
  };
}
