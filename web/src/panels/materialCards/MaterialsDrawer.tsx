import { useState } from 'react';
import { drawnPicked, isPicture, makeMaterial, startBringing } from '../../acts/materials';
import { session } from '../../acts/session';
import { CardRow, NewCard } from '../../controls/CardRow';
import { useStore } from '../../state/store';
import { MaterialCard } from './MaterialCard';

/** The drawer of materials: a card each, in the artist's order. Pictures dropped on it are kept. */
export function MaterialsDrawer() {
  const materials = useStore((s) => s.materials);
  const lead = useStore((s) => s.lead?.node.materials?.[0] ?? s.lead?.node.material ?? null);
  const [over, setOver] = useState(false);
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
      <CardRow
        of="materials"
        items={materials}
        wide={92}
        none="No materials yet. Make one, or drop a picture on an object."
        card={(material) => <MaterialCard material={material} isLeads={material.id === lead} />}
      />
      <NewCard
        word="New material"
        means="A new material, for what is picked where anything is"
        act={() => makeMaterial(null, drawnPicked())}
      />
    </div>
  );
}
