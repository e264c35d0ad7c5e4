import { act, render, screen } from "@testing-library/react";
import { Sayings } from "./Sayings";
import { say } from "./say";

window.matchMedia ??= (() => ({
  matches: false,
  addEventListener: () => undefined,
  removeEventListener: () => undefined,
})) as unknown as typeof matchMedia;

it("shows what was said also before it was loaded, each once, with its tone", async () => {
  const { unmount } = render(<Sayings />);
  expect(document.querySelector("[data-sonner-toaster]")).toBeNull();
  act(() => {
    say("Sent as SUP-0001.");
    say("That did not work.", "bad");
  });
  expect(await screen.findByText("Sent as SUP-0001.")).toBeTruthy();
  expect(
    screen.getByText("That did not work.").closest("[data-sonner-toast]")!.getAttribute("data-type"),
  ).toBe("error");
  act(() => say("Saved."));
  expect(await screen.findByText("Saved.")).toBeTruthy();
  expect(screen.getAllByText("Sent as SUP-0001.")).toHaveLength(1);
  unmount();
  expect(() => say("Nobody hears this.")).not.toThrow();
});
