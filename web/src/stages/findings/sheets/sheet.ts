/** What rises from the bottom edge of Findings. */
export type Sheet = 'destination' | 'house' | 'recipes' | 'rule' | 'edits' | 'waive' | 'hand' | 'hand-focus';
