import { Plugin } from 'prosemirror-state';
import { dragsComponents, droppedComponents } from '../shared/dragged-components';

/** A component of the library that was dropped on a page. */
export interface LibraryDrop {
  /** Its key. */
  readonly component: string;
  readonly position: number;
  /** On the screen. */
  readonly at: { readonly left: number; readonly top: number };
}

/** Components that are dragged from the library and dropped: how they are placed is asked then. */
export function libraryDrops(dropped: (drop: LibraryDrop) => void): Plugin {
  return new Plugin({
    props: {
      handleDOMEvents: {
        drop: (view, event) => {
          if (!dragsComponents(event.dataTransfer)) return false;
          event.preventDefault();
          const [component] = droppedComponents(event.dataTransfer);
          const found = view.posAtCoords({ left: event.clientX, top: event.clientY });
          if (component !== undefined && found && view.editable)
            dropped({ component, position: found.pos, at: { left: event.clientX, top: event.clientY } });
          return true;
        },
      },
    },
  });
}
