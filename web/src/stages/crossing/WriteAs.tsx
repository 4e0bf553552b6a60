import { useState } from 'react';
import type { CrossingView, IntoForm, WriteChoices } from '../../api/client';
import { useWriteChoices } from '../../api/queries';
import { RisingSheet } from '../../parts/RisingSheet';
import { WriteScene } from '../../parts/write/WriteScene';

interface WriteAsProps {
  sceneId: string;
  view: CrossingView;
  open: boolean;
  onOpenChange: (open: boolean) => void;
}

/** The whole scene as a file of another format, its looks as this stage carries them. */
export function WriteAs({ sceneId, view, open, onOpenChange }: WriteAsProps) {
  const choices = useWriteChoices(sceneId, open).data;
  const [chosen, choose] = useState<IntoForm | null>();
  return (
    <RisingSheet
      open={open}
      onOpenChange={onOpenChange}
      title="Write the scene in another format"
      about="Geometry goes along unchanged, every look is carried. Images are called from where they lie; a package takes them along."
    >
      <div className="max-w-[84ch]">
        {choices && (
          <WriteScene
            sceneId={sceneId}
            choices={choices}
            into={chosen === undefined ? formOf(choices, view) : chosen}
            onInto={choose}
          />
        )}
      </div>
    </RisingSheet>
  );
}

/** A form that says the model in hand, the stage's own route and numbers with it; null where none does. */
const formOf = (choices: WriteChoices, { to, route, fit }: CrossingView): IntoForm | null => {
  const form = choices.forms.find((f) => f.whyNot === null && f.models.some((m) => m.id === to));
  return form ? { form: form.form, model: to, route, fit } : null;
};
