/** What can be done with a row; one object for all rows, so that a row is drawn anew only for its own sake. */
export interface FieldDeeds {
  choose(id: string): void;
  open(id: string): void;
  fold(id: string): void;
  addBelow(id: string): void;
  up(id: string): void;
  down(id: string): void;
  nest(id: string): void;
  unnest(id: string): void;
  remove(id: string): void;
  paste(id: string, text: string): void;
  focus(id: string, by: number): void;
}
