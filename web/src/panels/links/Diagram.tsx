import '@xyflow/react/dist/base.css';
import './links.css';
import {
  Background,
  Controls,
  Handle,
  Position,
  ReactFlow,
  ReactFlowProvider,
  useReactFlow,
  type Edge,
  type Node,
  type NodeProps,
} from '@xyflow/react';
import { useEffect, useMemo, useRef, useState } from 'react';
import { answered } from '../../acts/asked';
import { startPlan } from '../../acts/planning';
import { newTie } from '../../acts/ties';
import { kinds } from '../../controls/constraintWords';
import { Name } from '../../controls/Name';
import { session } from '../../acts/session';
import { get, isSeen, set, useStore } from '../../state/store';
import { above } from '../../state/branches';
import { lay, size } from './layout';

/** The knots at the foot of what is gone by, and at the head of what goes by it. */
const by = 'by';
const goes = 'goes';

type Box = Node<{ name: string; kind: string; hidden: boolean; lead: boolean }, 'object'>;

const types = { object: ObjectBox };

/**
 * A link is made by dragging from the right of a parent to the left of a child, and cut by dragging its end into the open. Constraints are dashed: made
 * from the foot of a target to the head of a part, where the sentence asks for the kind, and cut in the same way.
 */
export default function Diagram() {
  return (
    <ReactFlowProvider>
      <Links />
    </ReactFlowProvider>
  );
}

function Links() {
  const children = useStore((s) => s.children);
  const byId = useStore((s) => s.byId);
  const sight = useStore((s) => s.sight);
  const selection = useStore((s) => s.selection);
  const lead = useStore((s) => s.lead);
  const [branch, setBranch] = useState<string[] | null>(() => topsOfPicked());
  // What was read of the lead anew says that something has changed.
  const changes = session.changes;
  const ties = useMemo(
    () => session.core.threadsOf(null).flatMap((t) => (t.by === null ? [] : [{ ...t, by: t.by }])),
    [changes, lead],
  );
  const laid = useMemo(() => {
    const tops = (branch ?? []).filter((id) => byId.has(id));
    return lay(get(), tops.length > 0 ? tops : (children.get(null) ?? []), ties);
  }, [children, branch, byId, ties]);
  const nodes = useMemo<Box[]>(() => {
    const picked = new Set(selection);
    const lead = selection.at(-1);
    return laid.nodes.map(({ id, x, y }) => {
      const row = byId.get(id)!;
      return {
        id,
        type: 'object',
        position: { x, y },
        width: size.width,
        height: size.height,
        selected: picked.has(id),
        draggable: false,
        ariaLabel: row.name,
        data: { name: row.name, kind: row.kind, hidden: !isSeen(get(), row), lead: id === lead },
      };
    });
  }, [laid, byId, selection, sight]);
  const edges = useMemo<Edge[]>(() => {
    const drawn = new Set(laid.nodes.map((n) => n.id));
    const tied = ties.filter((t) => drawn.has(t.by) && drawn.has(t.node));
    return [
      ...laid.links.map(({ parent, child }): Edge => ({
        id: child,
        source: parent,
        target: child,
        sourceHandle: 'carries',
        targetHandle: 'rides',
        reconnectable: 'target',
        ariaLabel: `${byId.get(child)?.name} rides on ${byId.get(parent)?.name}`,
      })),
      ...tied.map(({ node, link, kind, by: target, pulls, warns }): Edge => ({
        id: `${node} ${link}`,
        className: `tie${pulls ? '' : ' off'}`,
        source: target,
        target: node,
        sourceHandle: by,
        targetHandle: goes,
        reconnectable: true,
        label: `${warns ? '△ ' : ''}${wordOf(kind)}`,
        ariaLabel: `${byId.get(node)?.name}: ${wordOf(kind)} ${byId.get(target)?.name}`,
        data: { node, link },
      })),
    ];
  }, [laid, byId, ties]);
  const cut = (edge: Edge) => {
    const tie = tieOf(edge);
    if (tie) session.keep({ do: 'unconstrain', of: [tie] });
    else put(edge.target, null);
  };
  const flow = useReactFlow();
  const kept = useRef(true);
  useEffect(() => {
    void flow.fitView({ padding: 0.08, duration: 0, maxZoom: 1 });
  }, [branch, flow]);
  const put = (child: string, parent: string | null) =>
    session.keep({
      do: 'putUnder',
      nodes:
        get().selection.includes(child) && parent !== null && !get().selection.includes(parent)
          ? get().selection
          : [child],
      parent,
    });

  return (
    <>
      <header className="flex items-center gap-2 border-b border-line px-3 py-2">
        <h2 className="panel-title">Links</h2>
        <span className="min-w-0 flex-1 truncate text-ink-2">
          Sides carry, foot to head goes by. Drag an end away to cut.
        </span>
        <button type="button" className="btn" aria-pressed={branch === null} onClick={() => setBranch(null)}>
          Whole scene
        </button>
        <button
          type="button"
          className="btn"
          aria-pressed={branch !== null}
          disabled={selection.length === 0}
          onClick={() => setBranch(topsOfPicked())}
        >
          Picked branch
        </button>
        <button type="button" className="btn" onClick={() => set({ open: null })}>
          Close
        </button>
      </header>
      <div className="relative min-h-0 flex-1" data-links>
        <ReactFlow
          nodes={nodes}
          edges={edges}
          nodeTypes={types}
          minZoom={0.05}
          maxZoom={1.6}
          fitView
          fitViewOptions={{ padding: 0.08, maxZoom: 1 }}
          nodesDraggable={false}
          deleteKeyCode={null}
          proOptions={{ hideAttribution: true }}
          onNodeClick={(e, node) => {
            if (answered(node.id)) return;
            const { selection: now } = get();
            if (!(e.ctrlKey || e.metaKey)) session.select([node.id]);
            else session.select(now.includes(node.id) ? now.filter((id) => id !== node.id) : [...now, node.id]);
          }}
          onConnect={({ source, target, sourceHandle, targetHandle }) => {
            if (sourceHandle !== by && targetHandle !== goes) put(target, source);
            else tie(target, source);
          }}
          onReconnectStart={() => (kept.current = false)}
          onReconnect={(edge, { source, target }) => {
            kept.current = true;
            if (edge.source === source && edge.target === target) return;
            const of = tieOf(edge);
            if (!of) put(target, source);
            else if (edge.target === target) session.keep({ do: 'setConstraint', of: [of], target: source });
            else session.say({ kind: 'info', text: 'A constraint stays with its part. Cut it, and draw another one.' });
          }}
          onReconnectEnd={(_, edge) => {
            if (!kept.current) cut(edge);
            kept.current = true;
          }}
          onEdgeDoubleClick={(_, edge) => cut(edge)}
        >
          <Background gap={22} size={1} color="var(--line)" />
          <Controls showInteractive={false} />
        </ReactFlow>
        {laid.left > 0 && (
          <p
            className="absolute bottom-2 left-1/2 m-0 -translate-x-1/2 rounded-lg border border-line bg-paper px-3 py-1 text-ink-2"
            role="status"
          >
            {laid.left} more branches are not drawn. Pick a branch to see it alone.
          </p>
        )}
      </div>
    </>
  );
}

/** The constraint that an edge is; null: it is a carrier. */
function tieOf(edge: Edge): { node: string; id: string } | null {
  const { node, link } = (edge.data ?? {}) as { node?: string; link?: string };
  return node === undefined || link === undefined ? null : { node, id: link };
}

/** A part is to go by something: the sentence asks how. */
function tie(part: string, target: string): void {
  session.select([part]);
  startPlan(newTie('aim', target));
}

const wordOf = (kind: string) => kinds.find((k) => k.kind === kind)?.word ?? kind;

/** The picked branches from their own top, or the whole scene. */
function topsOfPicked(): string[] | null {
  const { selection, byId } = get();
  const tops = selection.map((id) => above({ byId }, id).at(-1) ?? id);
  return tops.length > 0 ? [...new Set(tops)] : null;
}

function ObjectBox({ data, selected }: NodeProps<Box>) {
  return (
    <div
      className={`flex h-full w-full items-center gap-1.5 rounded-lg border bg-paper px-2 text-[12px] ${
        selected ? 'border-plum bg-wash' : 'border-edge'
      } ${data.lead ? 'border-2 font-semibold' : ''} ${data.hidden ? 'opacity-60' : ''}`}
      title={data.name}
    >
      <Handle id="rides" type="target" position={Position.Left} />
      <Handle id={goes} type="target" position={Position.Top} className="tie-knot" />
      <Name text={data.name} className="flex-1" />
      <span className="text-[10.5px] text-ink-2">{data.kind}</span>
      <Handle id="carries" type="source" position={Position.Right} />
      <Handle id={by} type="source" position={Position.Bottom} className="tie-knot" />
    </div>
  );
}
