import Box from "@mui/material/Box";
import Typography from "@mui/material/Typography";
import { memo } from "react";
import { Link as RouterLink } from "react-router";
import { digits } from "../look/numbers";
import { VerdictLabel } from "../look/Verdict";
import type { OnShelf } from "./sight";

interface Props {
  item: OnShelf;
  chosen: boolean;
  onChoose: (id: string) => void;
}

/** One design as a line: what it is, how it stands, when it was changed. */
export const ShelfRow = memo(function ShelfRow({ item, chosen, onChoose }: Props) {
  return (
    <Box
      component="li"
      sx={{
        display: "grid",
        gridTemplateColumns: "34px 1fr 190px 110px 130px 170px",
        alignItems: "center",
        columnGap: 1,
        borderBottom: 1,
        borderColor: "divider",
        contentVisibility: "auto",
        containIntrinsicSize: "auto 36px",
      }}
    >
      <Choose item={item} chosen={chosen} onChoose={onChoose} />
      <RouterLink to={`/designs/${item.id}`} aria-label={`Open ${item.name}`}>
        {item.name}
        {item.tags.length > 0 && (
          <Typography component="span" variant="caption" color="text.secondary" sx={{ ml: 1 }}>
            {item.tags.join(", ")}
          </Typography>
        )}
      </RouterLink>
      <Typography variant="body2">{item.kind}</Typography>
      <VerdictLabel verdict={item.verdict} />
      <Typography variant="body2" sx={{ textAlign: "right" }}>
        {item.wire_length === null ? "" : `${digits(item.wire_length)} mm`}
      </Typography>
      <Typography variant="body2" color="text.secondary" sx={{ textAlign: "right" }}>
        {new Date(item.updated).toLocaleString()}
      </Typography>
    </Box>
  );
});

export function Choose({ item, chosen, onChoose }: Props) {
  return (
    <input
      type="checkbox"
      checked={chosen}
      onChange={() => onChoose(item.id)}
      aria-label={`Choose ${item.name}`}
      style={{ width: 18, height: 18, margin: 5, accentColor: "currentColor", flex: "none" }}
    />
  );
}
