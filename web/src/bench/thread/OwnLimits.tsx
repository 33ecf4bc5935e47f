import Button from "@mui/material/Button";
import Stack from "@mui/material/Stack";
import { typedLength } from "../../look/numbers";
import { useRecipe } from "../../state/bench";
import { useThreadContext } from "../PartContext";
import { ValueField } from "../ValueField";

const DIAMETERS = ["major", "pitch", "minor"] as const;

const MEMBERS = ["external", "internal"] as const;

/** Limits that the user types: those of a form of his own, or in place of a standard's. */
export function OwnLimits() {
  const { recipe, part, unit } = useThreadContext();
  const set = useRecipe((state) => state.set);
  if (!recipe.thread.limits) {
    const sizes = part.report?.thread.standard;
    const deviation = (limit?: number | null, basic?: number | null) =>
      limit == null || basic == null ? 0 : typedLength(limit - basic, unit, 6);
    return (
      <Button
        variant="outlined"
        onClick={() =>
          set(
            "/thread/limits",
            Object.fromEntries(
              MEMBERS.map((member) => [
                member,
                Object.fromEntries(
                  DIAMETERS.map((name) => {
                    const size = sizes?.[member][name];
                    return [
                      name,
                      {
                        upper: deviation(size?.max, size?.basic),
                        lower: deviation(size?.min, size?.basic),
                      },
                    ];
                  }),
                ),
              ]),
            ),
          )
        }
      >
        Set limits of its own
      </Button>
    );
  }
  return (
    <Stack spacing={1}>
      {MEMBERS.map((member) =>
        DIAMETERS.map((name) => (
          <Stack key={member + name} direction="row" spacing={1}>
            {(["upper", "lower"] as const).map((end) => (
              <ValueField
                key={end}
                label={`${member}, ${name}, ${end}`}
                place={`/thread/limits/${member}/${name}/${end}`}
                unit={unit}
                step={0.01}
                optional
              />
            ))}
          </Stack>
        )),
      )}
      <Button variant="text" onClick={() => set("/thread/limits", undefined)}>
        Leave its own limits out
      </Button>
    </Stack>
  );
}
