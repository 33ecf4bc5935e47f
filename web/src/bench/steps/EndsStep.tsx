import Stack from "@mui/material/Stack";
import Typography from "@mui/material/Typography";
import { lengthText } from "../../look/numbers";
import { usePartContext } from "../PartContext";

/** The part of the path that is used, and how it ends. */
export function EndsStep() {
  const { part, unit } = usePartContext();
  const strip = part.report?.strip;
  if (!strip) return <Typography variant="body2">Nothing to show yet.</Typography>;
  const last = strip.s.length - 1;
  const place = (i: number) =>
    [strip.x[i]!, strip.y[i]!, strip.z[i]!].map((c) => lengthText(c, unit)).join(", ");
  return (
    <Stack spacing={0.75}>
      <Typography variant="body2">
        The whole path is used, from 0 to {lengthText(strip.s[last]!, unit)}.
      </Typography>
      <Typography variant="body2">Starts at {place(0)}</Typography>
      <Typography variant="body2">Ends at {place(last)}</Typography>
      <Typography variant="body2">Both ends are cut flat, in the plane of the section.</Typography>
    </Stack>
  );
}
