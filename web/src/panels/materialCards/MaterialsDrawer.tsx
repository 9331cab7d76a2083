import { useVirtualizer } from '@tanstack/react-virtual';
import { Plus } from 'lucide-react';
import { useRef, useState } from 'react';
import { drawnPicked, isPicture, makeMaterial, startBringing } from '../../acts/materials';
import { session } from '../../acts/session';
import { useStore } from '../../state/store';
import { MaterialCard } from './MaterialCard';

const [wide, gap] = [92, 6];

/** The drawer of materials: a card each, in the artist's order. Pictures dropped on it are kept. */
export function MaterialsDrawer() {
  const materials = useStore((s) => s.materials);
  const lead = useStore((s) => s.lead?.node.materials?.[0] ?? s.lead?.node.material ?? null);
  const [over, setOver] = useState(false);
  const scroller = useRef<HTMLDivElement>(null);
  const cards = useVirtualizer({
    horizontal: true,
    count: materials.length,
    getScrollElement: () => scroller.current,
    estimateSize: () => wide + gap,
    overscan: 4,
  });
  return (
    <div
      className={`flex h-full min-w-0 flex-1 items-stretch gap-1.5 px-1.5 py-1.5 ${over ? 'bg-wash' : ''}`}
      role="group"
      aria-label="Materials"
      onDragOver={(e) => {
        if (!e.dataTransfer.types.includes('Files')) return;
        e.preventDefault();
        setOver(true);
      }}
      onDragLeave={() => setOver(false)}
      onDrop={(e) => {
        setOver(false);
        const file = e.dataTransfer.files[0];
        if (!file) return;
        e.preventDefault();
        e.stopPropagation();
        if (isPicture(file)) startBringing(file, file.name, null);
        else session.say({ kind: 'info', text: 'Only pictures are kept here: PNG, JPEG or WebP.' });
      }}
    >
      <div
        ref={scroller}
        className="min-w-0 flex-1 overflow-x-auto overflow-y-hidden [scrollbar-width:thin]"
        data-materials
        onWheel={(e) => {
          if (e.deltaX === 0 && !e.shiftKey) e.currentTarget.scrollLeft += e.deltaY;
        }}
      >
        {materials.length === 0 ? (
          <p className="m-0 p-3 text-ink-2">No materials yet. Make one, or drop a picture on an object.</p>
        ) : (
          <div className="relative h-full" style={{ width: cards.getTotalSize() }}>
            {cards.getVirtualItems().map((item) => (
              <div
                key={materials[item.index]!.id}
                className="absolute top-0 h-full"
                style={{ left: item.start, width: wide }}
              >
                <MaterialCard material={materials[item.index]!} isLeads={materials[item.index]!.id === lead} />
              </div>
            ))}
          </div>
        )}
      </div>
      <button
        type="button"
        className="flex w-[74px] shrink-0 flex-col items-center justify-center gap-1 rounded-lg border border-dashed border-edge text-center leading-tight text-ink-2 hover:border-plum hover:text-plum"
        title="A new material, for what is picked where anything is"
        onClick={() => makeMaterial(null, drawnPicked())}
      >
        <Plus size={14} aria-hidden />
        New material
      </button>
    </div>
  );
}
