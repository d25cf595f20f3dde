/**
 * The engine of the bench: puts its parts together and tells them what the bench says. It never renders large areas itself, so that it can
 * answer at any time.
 */
import { createKernels } from '@umbo/kernels';
import { accelerate } from '@umbo/core/base';
import { inSpace, patch, sameValue } from '@umbo/core/document';
import { Answering } from './inside/answering';
import { Levels } from './inside/levels';
import { beginLooking } from './inside/looked';
import { Painter } from './inside/painter';
import { PictureLoader } from './inside/pictureLoader';
import { ReadingLoop } from './inside/reading';
import { SideWorker } from './inside/sideWorker';
import { StageLoop } from './inside/stageLoop';
import { TilePool } from './inside/tilePool';
import type { FromEngine, Look, ToEngine, ToTile } from './protocol';

type Opening = Extract<ToEngine, { type: 'open' }>;

accelerate(createKernels());

const send = (message: FromEngine): void => postMessage(message);
const fail = (error: unknown): void => send({ type: 'failed', message: error instanceof Error ? error.message : String(error) });

/** Hears what the bench says after it was opened. */
type Hear = (message: Exclude<ToEngine, Opening>) => void;

function openEngine(opening: Opening): Hear {
  const { canvas, display, ports, side, photograph, others, document } = opening;
  const full = { width: photograph.width, height: photograph.height };
  const looked = beginLooking(full, document);
  const pool = new TilePool(ports);
  const sideWorker = new SideWorker(side);
  const levels = new Levels(photograph, document);
  const painter = new Painter(canvas, display);
  const loader = new PictureLoader({ full, levels }, document.workingSpace, others, {
    progress: (share) => send({ type: 'loading', share }),
    loaded(need, picture) {
      const message: ToTile = { type: 'picture', need, picture };
      pool.tell(message);
      sideWorker.tell(message);
    },
    refined: (need) => stage.pictureCame(need),
  });
  const stage = new StageLoop({
    looked,
    pool,
    levels,
    loader,
    painter,
    display,
    send,
    fail,
    painted(viewport) {
      answering.stagePainted();
      readings.painted(viewport);
    },
  });
  const answering = new Answering({
    looked,
    side: sideWorker,
    levels,
    loader,
    send,
    fail,
    stageIsReady: () => stage.hasPicture,
    small(result) {
      painter.setOverview(result);
      if (!stage.hasViewport) stage.draw();
    },
  });
  const readings = new ReadingLoop({ looked, side: sideWorker, send, fail, question: (ask) => answering.placed(ask) });
  const tellBoth = (message: ToTile): void => {
    stage.tellLater(message);
    sideWorker.tell(message);
  };
  const setLook = (look: Look): void => {
    const before = looked.look;
    looked.look = look;
    const { peek, layerId } = look;
    if (!sameValue(peek, before.peek)) tellBoth({ type: 'peek', peek });
    if (layerId !== before.layerId) {
      answering.thumbnailsSoon();
      readings.changed();
    }
    stage.lookChanged(before);
    if (!sameValue(look.proof, before.proof)) void stage.setProof(look.proof).catch(fail);
  };
  tellBoth({ type: 'document', document });
  readings.changed();

  return (message) => {
    switch (message.type) {
      case 'probe':
        return stage.probe(message.x, message.y, message.id, message.around);
      case 'other':
        loader.add(message.other);
        // What the edit names may be there now.
        return stage.update();
      case 'ask':
        return void answering.ask(message.ask, message.id);
      case 'alternatives':
        return answering.showAlternatives(message.setId);
      case 'size':
        stage.setSize(message.size);
        return stage.update();
      case 'view':
        stage.setView(message.view);
        break;
      case 'told':
        // A version may be of before the working space was another.
        looked.told[message.side] = inSpace(message.document, document.workingSpace);
        break;
      case 'look':
        setLook(message.look);
        break;
      case 'cards':
        return answering.setCards(message.ids);
      case 'patches':
        looked.document = patch(looked.document, message.patches);
        tellBoth({ type: 'patches', patches: message.patches });
        answering.documentChanged();
        readings.changed();
    }
    stage.update(message.seq);
  };
}

let hear: Hear | undefined;
addEventListener('message', ({ data }: MessageEvent<ToEngine>) => {
  try {
    if (data.type === 'open') hear = openEngine(data);
    else hear!(data);
  } catch (error) {
    fail(error);
  }
});
