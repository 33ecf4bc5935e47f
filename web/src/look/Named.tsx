import Typography from "@mui/material/Typography";

/** A figure's name, with the unit of the numbers beside it. */
export function Named({ title, unit }: { title: string; unit: string }) {
  return (
    <>
      {title}{" "}
      <Typography variant="caption" color="text.secondary">
        {unit}
      </Typography>
    </>
  );
}
