import Button from "@mui/material/Button";
import Stack from "@mui/material/Stack";
import TextField from "@mui/material/TextField";
import ToggleButton from "@mui/material/ToggleButton";
import ToggleButtonGroup from "@mui/material/ToggleButtonGroup";
import Typography from "@mui/material/Typography";
import { Choice } from "../bench/Choice";
import { FILTERS, ORDERS, type filtersOf, type Order, type Sight } from "./sight";

interface Props {
  sight: Sight;
  onSight: (change: Partial<Sight>) => void;
  filters: ReturnType<typeof filtersOf>;
  /** How many are shown, and how many are chosen. */
  shown: number;
  chosen: string[];
  onBuild: () => void;
  onTag: () => void;
  onDelete: () => void;
  onChooseNone: () => void;
}

/** What is shown of the shelf, in which order; and what can be done with all that is chosen. */
export function ShelfBar(props: Props) {
  const { sight, onSight, filters, shown, chosen } = props;
  return (
    <Stack
      direction="row"
      useFlexGap
      sx={{ gap: 1, mb: 2, flexWrap: "wrap", alignItems: "center" }}
    >
      <TextField
        label="Search"
        placeholder="name, note, designation, wire"
        type="search"
        value={sight.search}
        onChange={(event) => onSight({ search: event.target.value })}
        slotProps={{ inputLabel: { shrink: true } }}
        sx={{ width: 260 }}
      />
      <Stack direction="row" spacing={1} sx={{ width: 220 + 130 * filters.length }}>
        {filters.map(({ filter, words }) => (
          <Choice
            key={filter}
            label={FILTERS[filter].label}
            value={sight[filter]}
            options={[["", "any"], ...words.map((word) => [word, word] as const)]}
            onChange={(word) => onSight({ [filter]: word })}
          />
        ))}
        <Choice
          label="Order"
          value={sight.order}
          options={Object.entries(ORDERS) as [Order, string][]}
          onChange={(order) => onSight({ order })}
        />
      </Stack>
      <ToggleButtonGroup
        size="small"
        exclusive
        aria-label="Shown as"
        value={sight.list ? "list" : "cards"}
        onChange={(_, as: string | null) => as && onSight({ list: as === "list" })}
      >
        <ToggleButton value="cards" sx={{ textTransform: "none", py: 0.5 }}>
          Cards
        </ToggleButton>
        <ToggleButton value="list" sx={{ textTransform: "none", py: 0.5 }}>
          List
        </ToggleButton>
      </ToggleButtonGroup>
      <Typography variant="body2" color="text.secondary" role="status" sx={{ flex: 1 }}>
        {chosen.length ? `${chosen.length} of ${shown} chosen` : `${shown} designs`}
      </Typography>
      {chosen.length > 0 && (
        <Stack direction="row" sx={{ flexBasis: "100%", gap: 1 }}>
          <Button
            variant="outlined"
            download
            href={`/api/shelf/archive?${chosen.map((id) => `design=${id}`).join("&")}`}
          >
            Keep them as a file
          </Button>
          <Button variant="outlined" onClick={props.onTag}>
            Tag them
          </Button>
          <Button variant="outlined" onClick={props.onBuild}>
            Build them
          </Button>
          <Button variant="outlined" onClick={props.onDelete}>
            Delete them
          </Button>
          <Button variant="text" onClick={props.onChooseNone}>
            Choose none
          </Button>
        </Stack>
      )}
    </Stack>
  );
}
