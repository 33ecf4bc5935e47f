import { renderToStaticMarkup } from "react-dom/server";
import { expect, test } from "vitest";
import { Formula } from "./Formula";

test("indices stand below the line", () => {
  const shown = renderToStaticMarkup(<Formula symbol="F_n" formula="R (L₀ − L_c) / 2" />);
  expect(shown).toBe("F<sub>n</sub> = R (L₀ − L<sub>c</sub>) / 2");
});

test("a formula without a symbol is itself", () => {
  expect(renderToStaticMarkup(<Formula symbol="" formula="max z − min z" />)).toBe("max z − min z");
});
