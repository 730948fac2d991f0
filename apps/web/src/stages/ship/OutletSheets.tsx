import {
  closestCenter,
  DndContext,
  type DragEndEvent,
  KeyboardSensor,
  PointerSensor,
  useSensor,
  useSensors,
} from '@dnd-kit/core';
import {
  arrayMove,
  SortableContext,
  sortableKeyboardCoordinates,
  useSortable,
  verticalListSortingStrategy,
} from '@dnd-kit/sortable';
import {
  type CellValue,
  type SheetColumn,
  type SheetKind,
  type SheetProfile,
  sheetKinds,
} from '@sprig/core/outlets';
import { GripVertical, Plus, X } from 'lucide-react';
import { useState } from 'react';
import { Menu } from '../../kit/Menu.tsx';
import { Line, Part, TextPart, useOutletEditing } from './outlet-fields.tsx';
import { sheetWords, valuesFor, valueWords } from './ship-words.ts';

const FILES: Record<SheetKind, string> = {
  campaigns: 'campaigns',
  groups: 'ad-groups',
  keywords: 'keywords',
  negatives: 'negative-keywords',
  ads: 'ads',
  extras: 'extras',
  combined: 'all',
};

/** The sheets of an outlet: which there are, and the columns of the chosen one in their order. */
export function OutletSheets() {
  const { outlet, put, readOnly } = useOutletEditing();
  const [chosen, setChosen] = useState(0);
  const at = Math.min(chosen, outlet.sheets.length - 1);
  const sheet = outlet.sheets[at];
  const missing = sheetKinds.filter((kind) => !outlet.sheets.some((one) => one.kind === kind));
  const add = (kind: SheetKind) => {
    const [first = 'campaign'] = valuesFor(kind);
    const columns: SheetColumn[] = [{ heading: valueWords(first), value: first }];
    put('sheets', [...outlet.sheets, { kind, fileName: FILES[kind], columns }]);
    setChosen(outlet.sheets.length);
  };
  return (
    <Part title="Sheets" places={['sheets']}>
      <div className="flex flex-wrap items-center gap-1" role="group" aria-label="Sheets of the outlet">
        {outlet.sheets.map(({ kind }, place) => (
          <button
            key={kind}
            type="button"
            aria-pressed={at === place}
            className={`btn btn-xs font-normal ${at === place ? 'btn-active' : ''}`}
            onClick={() => setChosen(place)}
          >
            {sheetWords[kind]}
          </button>
        ))}
        {!readOnly && missing.length > 0 && (
          <Menu
            label="Add a sheet"
            className="btn btn-ghost btn-xs font-normal"
            items={missing.map((kind) => ({ words: sheetWords[kind], run: () => add(kind) }))}
          >
            <Plus size={13} aria-hidden /> Sheet
          </Menu>
        )}
        {!readOnly && outlet.sheets.length > 1 && (
          <button
            type="button"
            className="btn btn-ghost btn-xs ml-auto font-normal"
            onClick={() =>
              put(
                'sheets',
                outlet.sheets.filter((_, place) => place !== at),
              )
            }
          >
            Take out {sheet && sheetWords[sheet.kind].toLowerCase()}
          </button>
        )}
      </div>
      {sheet && <Columns key={sheet.kind} sheet={sheet} at={at} />}
    </Part>
  );
}

function Columns({ sheet, at }: { sheet: SheetProfile; at: number }) {
  const { put, readOnly } = useOutletEditing();
  const { columns, kind } = sheet;
  const place = `sheets.${at}.columns`;
  const sensors = useSensors(
    useSensor(PointerSensor, { activationConstraint: { distance: 4 } }),
    useSensor(KeyboardSensor, { coordinateGetter: sortableKeyboardCoordinates }),
  );
  const ids = columns.map(({ value }, n) => `${n}:${value}`);
  const onDragEnd = ({ active, over }: DragEndEvent) => {
    if (!over || active.id === over.id) return;
    put(place, arrayMove(columns, ids.indexOf(String(active.id)), ids.indexOf(String(over.id))));
  };
  const free = valuesFor(kind).filter(
    (value) => value === 'fixed' || !columns.some((column) => column.value === value),
  );
  return (
    <>
      <Line>
        The file is named <TextPart at={`sheets.${at}.fileName`} label="Name of the file" width="w-40" />
      </Line>
      <DndContext sensors={sensors} collisionDetection={closestCenter} onDragEnd={onDragEnd}>
        <SortableContext items={ids} strategy={verticalListSortingStrategy}>
          <ol className="flex flex-col" aria-label={`Columns of ${sheetWords[kind]}`}>
            {columns.map((column, n) => (
              <ColumnRow
                key={ids[n]}
                id={ids[n] as string}
                column={column}
                kind={kind}
                at={`${place}.${n}`}
                onRemove={() =>
                  put(
                    place,
                    columns.filter((_, one) => one !== n),
                  )
                }
              />
            ))}
          </ol>
        </SortableContext>
      </DndContext>
      {!readOnly && free.length > 0 && (
        <Line>
          <select
            className="plain-field chip cursor-pointer"
            aria-label="Add a column"
            value=""
            onChange={({ target }) =>
              put(place, [
                ...columns,
                { heading: valueWords(target.value as CellValue), value: target.value },
              ])
            }
          >
            <option value="">+ Column …</option>
            {free.map((value) => (
              <option key={value} value={value}>
                {valueWords(value)}
              </option>
            ))}
          </select>
        </Line>
      )}
    </>
  );
}

type ColumnRowProps = { id: string; column: SheetColumn; kind: SheetKind; at: string; onRemove: () => void };

function ColumnRow({ id, column, kind, at, onRemove }: ColumnRowProps) {
  const { put, readOnly } = useOutletEditing();
  const { attributes, listeners, setNodeRef, transform, transition } = useSortable({
    id,
    disabled: readOnly,
  });
  const values = valuesFor(kind);
  return (
    <li
      ref={setNodeRef}
      className="flex items-center gap-1.5 border-base-200 border-b bg-base-100 py-0.5"
      style={{ transform: transform ? `translateY(${Math.round(transform.y)}px)` : undefined, transition }}
    >
      {!readOnly && (
        <button
          type="button"
          className="cursor-grab text-faint"
          {...attributes}
          {...listeners}
          aria-label={`Move ${column.heading}`}
        >
          <GripVertical size={14} aria-hidden />
        </button>
      )}
      <TextPart at={`${at}.heading`} label={`Heading for ${valueWords(column.value)}`} width="w-44" />
      <span className="text-faint">holds</span>
      <select
        className="plain-field chip min-w-0 flex-1 cursor-pointer"
        aria-label={`What ${column.heading} holds`}
        disabled={readOnly}
        value={column.value}
        onChange={({ target }) => put(`${at}.value`, target.value)}
      >
        {(values.includes(column.value) ? values : [column.value, ...values]).map((value) => (
          <option key={value} value={value}>
            {valueWords(value)}
          </option>
        ))}
      </select>
      {column.value === 'fixed' && (
        <TextPart at={`${at}.text`} label={`What ${column.heading} always says`} width="w-28" />
      )}
      {!readOnly && (
        <button
          type="button"
          className="btn btn-ghost btn-square btn-xs"
          aria-label={`Take out ${column.heading}`}
          onClick={onRemove}
        >
          <X size={13} aria-hidden />
        </button>
      )}
    </li>
  );
}
