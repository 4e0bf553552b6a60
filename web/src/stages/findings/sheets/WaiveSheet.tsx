import { useState } from 'react';
import type { CauseItem } from '../../../api/client';
import { RisingSheet } from '../../../parts/RisingSheet';

interface WaiveSheetProps {
  cause: CauseItem;
  onOpenChange: (open: boolean) => void;
  onWaive: (reason: string) => void;
}

/** Lets a cause stand, with a reason that stays with the scene. */
export function WaiveSheet({ cause, onOpenChange, onWaive }: WaiveSheetProps) {
  const [reason, setReason] = useState('');
  return (
    <RisingSheet
      open
      onOpenChange={onOpenChange}
      title={`Waive: ${cause.count} ${cause.sentence}`}
      about="The reason is kept with the scene and shown in reports. It can be taken back."
    >
      <form
        className="flex items-center gap-4"
        onSubmit={(e) => {
          e.preventDefault();
          if (reason.trim()) onWaive(reason.trim());
        }}
      >
        <label className="flex flex-1 items-center gap-3">
          Reason
          <input
            autoFocus
            className="h-8 flex-1 border border-rule bg-ground px-2"
            value={reason}
            onChange={(e) => setReason(e.target.value)}
            placeholder="Why it may stand, as “the sign is meant to glow”"
          />
        </label>
        <button type="submit" className="key" disabled={!reason.trim()}>
          Waive it
        </button>
      </form>
    </RisingSheet>
  );
}
