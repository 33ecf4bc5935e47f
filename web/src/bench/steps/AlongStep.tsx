import FormControlLabel from "@mui/material/FormControlLabel";
import Stack from "@mui/material/Stack";
import Switch from "@mui/material/Switch";
import { useRecipe } from "../../state/bench";
import { usePartContext } from "../PartContext";
import { ValueField } from "../ValueField";

/** Twist and size over the true length, each switched off and on. */
export function AlongStep() {
  const { recipe } = usePartContext();
  const change = useRecipe((state) => state.change);
  const twist = recipe.along?.twist;
  const size = recipe.along?.size;
  const twistOn = Boolean(twist && twist.on !== false);
  const sizeOn = Boolean(size && size.on !== false);
  return (
    <Stack spacing={1.5}>
      <FormControlLabel
        label="Twist, even in true length"
        control={
          <Switch
            size="small"
            checked={twistOn}
            onChange={(_, on) =>
              change((old) => ({
                ...old,
                along: { ...old.along, twist: { total: twist?.total ?? 360, on } },
              }))
            }
          />
        }
      />
      {twistOn && (
        <ValueField label="Twist from start to end" place="/along/twist/total" unit="°" step={15} />
      )}
      <FormControlLabel
        label="Size, against the section as typed"
        control={
          <Switch
            size="small"
            checked={sizeOn}
            onChange={(_, on) =>
              change((old) => ({
                ...old,
                along: {
                  ...old.along,
                  size: { from: size?.from ?? 1, to: size?.to ?? 0.6, on },
                },
              }))
            }
          />
        }
      />
      {sizeOn && (
        <Stack direction="row" spacing={1}>
          <ValueField label="Size at the start" place="/along/size/from" unit="×" step={0.05} />
          <ValueField label="Size at the end" place="/along/size/to" unit="×" step={0.05} />
        </Stack>
      )}
    </Stack>
  );
}
