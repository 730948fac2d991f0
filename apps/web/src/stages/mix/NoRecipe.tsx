import { type ShapeKey, shapes } from '@sprig/core/mix';
import { Empty } from '../../kit/Empty.tsx';

/** Where there is no recipe: a first one in one of the shapes. */
export const NoRecipe = ({
  usual,
  onMake,
}: {
  /** What new recipes begin like; null: none is kept. */
  usual: string | null;
  onMake: (shape: ShapeKey | 'usual') => void;
}) => (
  <div className="grid flex-1 place-items-center p-8">
    <Empty title="No recipe yet">
      <p className="mb-3">
        A recipe combines word lists into keywords. Begin with a shape; its lists and slots can all be
        changed.
      </p>
      <div className="flex flex-wrap justify-center gap-2">
        {usual !== null && (
          <button type="button" className="btn btn-primary btn-sm" onClick={() => onMake('usual')}>
            As usual: {usual}
          </button>
        )}
        {shapes.map(({ key, name }) => (
          <button key={key} type="button" className="btn btn-sm" onClick={() => onMake(key)}>
            {name}
          </button>
        ))}
      </div>
    </Empty>
  </div>
);
