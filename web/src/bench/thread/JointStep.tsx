import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Stack from "@mui/material/Stack";
import Typography from "@mui/material/Typography";
import type { Schemas } from "../../api/client";
import { FiguresTable } from "../../look/FiguresTable";
import { useLook } from "../../look/Look";
import { digits } from "../../look/numbers";
import { useRecipe } from "../../state/bench";
import { KindFields } from "../forms/KindFields";
import { useThreadContext } from "../PartContext";

/** What the thread and its mate are made of, and what they bear. */
export function JointStep() {
  const { recipe, part, unit } = useThreadContext();
  const set = useRecipe((state) => state.set);
  const joint = part.report?.thread.joint;
  if (!recipe.joint)
    return (
      <Stack spacing={1.5}>
        <Typography variant="body2">
          Say what both members are made of, and the joint&rsquo;s breaking load, its stripping, its
          tightening and its drive are worked out as you draw.
        </Typography>
        <Button variant="contained" onClick={() => set("/joint", {})}>
          It is a joint
        </Button>
      </Stack>
    );
  return (
    <Stack spacing={1.5}>
      <KindFields place="/joint" />
      {joint && (
        <>
          <Typography variant="body2" role="status">
            {joint.breaks_first
              ? "The bolt breaks before a thread strips."
              : `The ${joint.strips_first} threads strip before the bolt breaks.`}
          </Typography>
          <Turns joint={joint} />
          <FiguresTable
            label="Figures of the joint"
            figures={joint.figures.filter(({ value }) => value !== null)}
            unit={unit}
          />
        </>
      )}
      <Button variant="text" onClick={() => set("/joint", undefined)}>
        Leave the joint out
      </Button>
    </Stack>
  );
}

/** The share of the load on each turn of the nut, as bars. */
function Turns({ joint }: { joint: Schemas["JointOut"] }) {
  const { colours } = useLook();
  const most = Math.max(...joint.shares);
  const shown = joint.shares.slice(0, 12);
  return (
    <Box component="section" aria-label="Load on the turns">
      <Typography variant="h3" component="h3">
        Load on the turns, from the nut&rsquo;s face on
      </Typography>
      <Box
        component="ol"
        sx={{ listStyle: "none", p: 0, m: 0, mt: 0.5, display: "grid", gap: 0.25 }}
      >
        {shown.map((share, index) => (
          <Box
            component="li"
            key={index}
            sx={{
              display: "grid",
              gridTemplateColumns: "24px 1fr 52px",
              alignItems: "center",
              fontSize: "0.82rem",
              fontVariantNumeric: "tabular-nums",
            }}
          >
            <span>{index + 1}</span>
            <Box sx={{ height: 9, width: `${(100 * share) / most}%`, bgcolor: colours.copper }} />
            <Box component="span" sx={{ textAlign: "right" }}>
              {digits(100 * share, 3)} %
            </Box>
          </Box>
        ))}
      </Box>
      {joint.shares.length > shown.length && (
        <Typography variant="caption" color="text.secondary">
          and {joint.shares.length - shown.length} more turns
        </Typography>
      )}
    </Box>
  );
}
