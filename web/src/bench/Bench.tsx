'use client';
import { useEffect, useState } from 'react';
import styled from 'styled-components';
import { childrenOf, eachLayer, type UmboDocument } from '@umbo/core/document';
import type { DocumentState } from '@umbo/data';
import { CarryDialog } from '@/carry/CarryDialog';
import { HandOverDialog } from '@/handOver/HandOverDialog';
import { keptChosen } from '@/ui/chosen';
import { Message } from '@/ui/Message';
import { BenchHeader } from './BenchHeader';
import { Alternatives } from './cards/Alternatives';
import { Cards } from './cards/Cards';
import { PasteDialog } from './cards/PasteDialog';
import { BenchContext, useBench, useBenchStore, useLayer, useMaskOwner } from './state/context';
import { CropDesk } from './desk/CropDesk';
import { rememberDesk } from './desk/deskMemory';
import { ReadingDesk } from './desk/ReadingDesk';
import { ConflictDialog } from './ConflictDialog';
import { Footer } from './Footer';
import { KeepTreatment } from './KeepTreatment';
import { How } from './how/How';
import { Begin } from './intents/Begin';
import { GuideLine } from './intents/GuideLine';
import { References } from './side/References';
import { ShortcutSheet } from './ShortcutSheet';
import { Panels } from './Panels';
import { Side } from './side/Side';
import { Stage } from './stage/Stage';
import type { BenchState, BenchStore, PhotographInfo, ShootInfo } from './state/benchState';
import { browserPorts } from './state/browserPorts';
import type { CameAlong } from './state/copied';
import { createBench } from './state/store';
import { ToolBar } from './tools/ToolBar';
import { AlsoHere } from './what/AlsoHere';
import { useBenchKeys } from './useBenchKeys';
import { What } from './what/What';
import { RegionHead } from './where/RegionHead';
import { Where } from './where/Where';

const Frame = styled.div`
  height: 100vh;
  display: flex;
  flex-direction: column;
  font-size: 12px;
  line-height: 16px;
  overflow: hidden;
`;
const Desk = styled.aside`
  height: 100%;
  display: flex;
  flex-direction: column;
  border-left: 1px solid var(--line);
`;
// Positioned, so that what controls hide within it is cut off with it: else the page itself would scroll.
const Sections = styled.div`
  position: relative;
  flex: 1;
  min-height: 0;
  overflow-y: auto;
  scrollbar-width: thin;
`;
const Here = styled.div`
  padding: 0 14px 10px;
`;

interface Props {
  database: string;
  photograph: PhotographInfo;
  shoot: ShootInfo;
  edit: DocumentState;
  /** What came of carrying to it, when it is opened to look at that. */
  carried: CameAlong | null;
}

/** The photographs that were chosen on the contact sheet, when several were. */
const shownChosen = (shootId: number): readonly number[] => {
  const { chosen } = keptChosen(shootId);
  return chosen.length > 1 ? chosen : [];
};

const alternativesIn = ({ layers }: UmboDocument): number =>
  [...eachLayer(layers)].reduce((sum, layer) => sum + (layer.what.kind === 'colourways' ? childrenOf(layer).length : 0), 0);

/** Resolves when what is still being solved or measured is in the edit, and the edit is kept. */
async function settled(store: BenchStore): Promise<void> {
  const isBusy = ({ solving, measuring }: BenchState): boolean => solving !== null || measuring > 0;
  if (isBusy(store.getState()))
    await new Promise<void>((resolve) => {
      const end = store.subscribe((state) => {
        if (isBusy(state)) return;
        end();
        resolve();
      });
    });
  await store.getState().whenKept();
}

/** The screen where one photograph is worked on. */
export function Bench({ database, photograph, shoot, edit, carried }: Props) {
  const [store] = useState(() => createBench(database, photograph, shoot, edit, browserPorts, carried));
  const [isolated, setIsolated] = useState(true);
  useEffect(() => setIsolated(crossOriginIsolated), []);
  useEffect(() => rememberDesk(store), [store]);
  if (!isolated)
    return (
      <Message title="The bench cannot run at this address">
        <p>Browsers give pages shared memory only under a secure address. Open Umbo at http://127.0.0.1 or through HTTPS.</p>
      </Message>
    );
  return (
    <BenchContext value={store}>
      <BenchFrame />
    </BenchContext>
  );
}

function BenchFrame() {
  const store = useBenchStore();
  const photograph = useBench((state) => state.photograph);
  const shoot = useBench((state) => state.shoot);
  const references = useBench((state) => state.references);
  const database = useBench((state) => state.database);
  const carrying = useBench((state) => state.carrying);
  const colourways = useBench(({ committed }) => alternativesIn(committed));
  const [handingOver, setHandingOver] = useState(false);
  const [keysShown, setKeysShown] = useState(false);

  // A tab that is closed takes what is being measured with it.
  const measuring = useBench((state) => state.measuring > 0);
  useEffect(() => {
    if (!measuring) return;
    const ask = (event: BeforeUnloadEvent): void => event.preventDefault();
    addEventListener('beforeunload', ask);
    return () => removeEventListener('beforeunload', ask);
  }, [measuring]);

  useBenchKeys(setKeysShown);
  return (
    <Frame>
      <BenchHeader onKeys={() => setKeysShown(true)} onHandOver={() => setHandingOver(true)} />
      <Cards />
      <Panels
        side={<Side />}
        stage={
          <Stage>
            <GuideLine />
            <ToolBar />
          </Stage>
        }
        references={references && <References />}
        desk={<LayerDesk />}
      />
      <Footer />
      <HandOverDialog
        shootId={shoot.id}
        photograph={photograph}
        colourways={colourways}
        isOpen={handingOver}
        onClose={() => setHandingOver(false)}
        kept={() => settled(store)}
      />
      <CarryDialog
        database={database}
        shootId={shoot.id}
        from={photograph.id}
        to={shownChosen(shoot.id)}
        layers={carrying ?? []}
        isOpen={carrying !== null}
        onClose={() => store.getState().set({ carrying: null })}
        kept={() => settled(store)}
      />
      <KeepTreatment />
      <ShortcutSheet isOpen={keysShown} onClose={() => setKeysShown(false)} />
      <ConflictDialog />
      <Alternatives />
      <PasteDialog />
    </Frame>
  );
}

function LayerDesk() {
  return (
    <Desk aria-label="Desk">
      <ReadingDesk />
      <DeskOfLayer />
    </Desk>
  );
}

function DeskOfLayer() {
  const layer = useLayer();
  const owner = useMaskOwner();
  const isCropping = useBench((state) => state.tool === 'crop');
  if (isCropping) return <CropDesk />;
  if (!layer && owner)
    return (
      <>
        <Sections>
          <RegionHead region={owner} />
          <Where layer={owner} />
          <Here>
            <AlsoHere owner={owner} />
          </Here>
        </Sections>
      </>
    );
  if (!layer)
    return (
      <Sections>
        <Begin />
      </Sections>
    );
  return (
    <>
      <Sections>
        <Where layer={layer} />
        <What layer={layer} />
      </Sections>
      <How layer={layer} />
    </>
  );
}
