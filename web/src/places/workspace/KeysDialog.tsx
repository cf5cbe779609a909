import { Kbd, Modal } from '@mantine/core';

const KEYS: readonly { readonly group: string; readonly keys: readonly (readonly [string, string])[] }[] = [
  {
    group: 'Everywhere',
    keys: [
      ['Ctrl Z', 'undo'],
      ['Ctrl Shift Z', 'redo'],
      ['Ctrl S', 'save now'],
      ['Alt 1 … 6', 'go to a stage'],
      ['?', 'this list'],
    ],
  },
  {
    group: 'Drawing board',
    keys: [
      ['+ − 0', 'larger, smaller, all'],
      ['arrows', 'move the board'],
      ['Tab', 'from part to part and handle to handle'],
      ['Enter', 'choose the part'],
      ['M', 'add a mechanism'],
      ['V L R C D', 'choose, line, rectangle, circle, measure'],
      ['P A B', 'line with corners, arc, curve'],
      ['T E I', 'trim a line, make it longer, bridge a cut'],
      ['Enter', 'end a line with corners; Esc takes its last corner back'],
      ['Shift press', 'choose one more, or one less'],
      ['Shift drag', 'choose all inside a box'],
      ['O', 'choose what lies inside a loop'],
      ['Ctrl G', 'group the chosen lines; with Shift, let them go'],
      ['Alt press', 'choose one line of a group'],
      ['Ctrl A', 'choose all mechanisms and parts'],
      ['Esc', 'give up what is drawn, the tool, the choice'],
      ['Delete', 'take the chosen thing away'],
      ['Ctrl C X V', 'copy, cut, paste what is chosen, also into another job'],
      ['Ctrl D', 'another one like what is chosen'],
      ['Shift', 'while drawing: straight across or up'],
      ['Alt', 'while drawing: no snapping'],
    ],
  },
  {
    group: 'Handles and measures',
    keys: [
      ['arrows', '1 mm or 1/16 in (a handle, or up and down in a field)'],
      ['Shift arrows', '10 mm or 1/2 in'],
      ['Alt arrows', '0.1 mm or 1/64 in'],
      ['Enter', 'take what is typed'],
      ['Esc', 'give it up'],
    ],
  },
  {
    group: 'Opening',
    keys: [
      ['arrows', '1°, with Shift 10°'],
      ['Home End', 'closed, flat open'],
      ['Space', 'open and close'],
    ],
  },
  {
    group: 'Opened while pulled',
    keys: [
      ['↑ ↓', 'the pull, by a twelfth of its way'],
      ['← →', 'the opening, by 5°'],
    ],
  },
];

/** All keys, by where they work. */
export default function KeysDialog({ onClose }: { onClose: () => void }) {
  return (
    <Modal opened onClose={onClose} title="Keys" size="lg">
      <div className="keys">
        {KEYS.map(({ group, keys }) => (
          <section key={group}>
            <h3>{group}</h3>
            <dl>
              {keys.map(([key, does]) => (
                <div key={key}>
                  <dt>
                    <Kbd size="xs">{key}</Kbd>
                  </dt>
                  <dd>{does}</dd>
                </div>
              ))}
            </dl>
          </section>
        ))}
      </div>
    </Modal>
  );
}
