import { Dialog } from 'radix-ui';
import { useState } from 'react';

interface WrongWordProps {
  material: string;
  word: string;
  onSay: (word: string) => void;
  onOpenChange: (open: boolean) => void;
}

/** What is not right, in a word. */
export function WrongWord({ material, word, onSay, onOpenChange }: WrongWordProps) {
  const [text, setText] = useState(word);
  return (
    <Dialog.Root open onOpenChange={onOpenChange}>
      <Dialog.Portal>
        <Dialog.Overlay className="veil" />
        <Dialog.Content className="sheet w-[460px]" aria-describedby={undefined}>
          <Dialog.Title className="text-[15px] font-[680]">What is not right with {material}?</Dialog.Title>
          <form
            className="flex items-center gap-4 pt-3"
            onSubmit={(e) => {
              e.preventDefault();
              if (text.trim() !== '') onSay(text.trim());
            }}
          >
            <input
              autoFocus
              aria-label="What is not right"
              placeholder="too blue, grain too large"
              maxLength={300}
              className="h-7 min-w-0 flex-1 border border-rule bg-ground px-2 text-[13px]"
              value={text}
              onChange={(e) => setText(e.target.value)}
            />
            <button type="submit" className="key" disabled={text.trim() === ''}>
              Mark as not right
            </button>
          </form>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
