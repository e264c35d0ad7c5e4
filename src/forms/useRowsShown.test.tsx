import { render, screen } from "@testing-library/react";
import { useRowsShown } from "./useRowsShown";

const drawn: number[] = [];
function Rows({ total }: { total: number }) {
  const shown = useRowsShown(total);
  drawn.push(shown);
  return <p>{shown} drawn</p>;
}
beforeEach(() => void (drawn.length = 0));

it("draws a hundred rows with the page, and all of them after", async () => {
  const { rerender } = render(<Rows total={1500} />);
  expect(drawn[0]).toBe(100);
  expect(await screen.findByText("1500 drawn")).toBeTruthy();
  // From then on every row that is added is there at once.
  rerender(<Rows total={1501} />);
  expect(screen.getByText("1501 drawn")).toBeTruthy();
});

it("draws what is not many at once, also when it grows", () => {
  const { rerender } = render(<Rows total={3} />);
  expect(drawn[0]).toBe(3);
  rerender(<Rows total={400} />);
  expect(drawn.at(-1)).toBe(400);
});
