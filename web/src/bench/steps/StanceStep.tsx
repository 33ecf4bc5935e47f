import FormControl from "@mui/material/FormControl";
import FormControlLabel from "@mui/material/FormControlLabel";
import Radio from "@mui/material/Radio";
import RadioGroup from "@mui/material/RadioGroup";
import Typography from "@mui/material/Typography";
import { useRecipe } from "../../state/bench";
import { usePartContext } from "../PartContext";
import { STANCES } from "../sentences";

/** How the section stands while it travels. */
export function StanceStep() {
  const { recipe } = usePartContext();
  const set = useRecipe((state) => state.set);
  return (
    <FormControl>
      <RadioGroup
        aria-label="Stance"
        value={recipe.stance.kind}
        onChange={(event) => set("/stance/kind", event.target.value)}
      >
        {Object.entries(STANCES).map(([kind, text]) => (
          <FormControlLabel
            key={kind}
            value={kind}
            control={<Radio size="small" />}
            label={
              <Typography component="span" variant="body2">
                <strong>{kind}</strong>: {text}
              </Typography>
            }
          />
        ))}
      </RadioGroup>
    </FormControl>
  );
}
