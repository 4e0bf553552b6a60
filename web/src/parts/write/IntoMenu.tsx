import { DropdownMenu } from 'radix-ui';
import type { IntoForm, WriteChoices } from '../../api/client';

interface IntoMenuProps {
  choices: WriteChoices;
  into: IntoForm | null;
  onInto: (into: IntoForm | null) => void;
}

/** The format that a scene is written in: its own, or another with the looks in a model that this says. */
export function IntoMenu({ choices, into, onInto }: IntoMenuProps) {
  const all = choices.forms.flatMap((form) => form.models.map((model) => ({ form, model })));
  const valueOf = (form: string, model: string) => `${form} ${model}`;
  const chosen = into && all.find((c) => c.form.form === into.form && c.model.id === into.model);
  const shown = chosen ? nameOf(chosen) : `${choices.own}, as it is`;
  return (
    <DropdownMenu.Root modal={false}>
      <DropdownMenu.Trigger className="act" aria-label={`Written as ${shown}`}>
        {shown} <span aria-hidden="true">▾</span>
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content className="menu w-96" align="start" sideOffset={4}>
          <DropdownMenu.RadioGroup
            value={into ? valueOf(into.form, into.model) : ''}
            onValueChange={(value) => {
              const found = all.find((c) => valueOf(c.form.form, c.model.id) === value);
              onInto(
                found ? { route: 'kept', fit: false, ...into, form: found.form.form, model: found.model.id } : null,
              );
            }}
          >
            <DropdownMenu.RadioItem value="" className="data-[state=checked]:font-[680]">
              {choices.own}, as it is
            </DropdownMenu.RadioItem>
            {all.map((choice) => (
              <DropdownMenu.RadioItem
                key={valueOf(choice.form.form, choice.model.id)}
                value={valueOf(choice.form.form, choice.model.id)}
                disabled={choice.form.whyNot !== null}
                className="data-[state=checked]:font-[680]"
              >
                {nameOf(choice)}
                {choice.form.whyNot && (
                  <span className="block text-[12px] leading-4 text-quiet">{choice.form.whyNot}</span>
                )}
              </DropdownMenu.RadioItem>
            ))}
          </DropdownMenu.RadioGroup>
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}

type Form = WriteChoices['forms'][number];

const nameOf = ({ form, model }: { form: Form; model: Form['models'][number] }) => `${form.name}, ${model.name}`;
