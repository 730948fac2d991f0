import { type ShapeKey, shapes } from '@sprig/core/mix';
import { Empty } from '../../kit/Empty.tsx';

/** Where there is no recipe: a first one in one of the shapes. */
export const NoRecipe = ({ onMake }: { onMake: (shape: ShapeKey) => void }) => (
  <div className="grid flex-1 place-items-center p-8">
    <Empty title="No recipe yet">
      <p className="mb-3">
        A recipe combines word lists into keywords. Begin with a shape; its lists and slots can all be
        changed.
      </p>
      <div className="flex flex-wrap justify-center gap-2">
        {shapes.map(({ key, name }) => (
          <button key={key} type="button" className="btn btn-sm" onClick={() => onMake(key)}>
            {name}
          </button>
        ))}
      </div>
    </Empty>
  </div>
);
