import Alert from "@mui/material/Alert";
import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import MenuItem from "@mui/material/MenuItem";
import Stack from "@mui/material/Stack";
import TextField from "@mui/material/TextField";
import Typography from "@mui/material/Typography";
import { useState } from "react";
import { Link, useSearchParams } from "react-router";
import type { ProofBook } from "../api/client";
import { Opening } from "../look/Opening";
import { PageHeader } from "../look/PageHeader";
import { VerdictMark } from "../look/Verdict";
import { useProofs } from "./useProofs";
import { DataTable } from "../look/DataTable";
import { Beneath } from "../look/Beneath";

type Family = ProofBook["families"][number];
type Row = Family["rows"][number];

/** Every figure that was held against a value from elsewhere; of one figure, where the address names it. */
export function VerificationPage() {
  const [asked] = useSearchParams();
  const figure = asked.get("figure");
  const { data, error } = useProofs(figure);
  const [words, setWords] = useState("");
  const [standing, setStanding] = useState("");
  if (error) return <Alert severity="error">{error.message}</Alert>;
  if (!data) return <Opening />;
  const families = data.families
    .map((family) => ({ ...family, rows: family.rows.filter((row) => fits(row, words, standing)) }))
    .filter(({ rows }) => rows.length > 0);
  const count = families.reduce((sum, { rows }) => sum + rows.length, 0);
  return (
    <Box sx={{ display: "grid", gridTemplateRows: "46px auto" }}>
      <PageHeader>
        <Typography component="h1" variant="h1" sx={{ flex: 1, fontSize: "1.15rem" }}>
          The book of proof
        </Typography>
      </PageHeader>
      <Box component="main" sx={{ maxWidth: 1160, width: "100%", mx: "auto", p: 3 }}>
        <Typography color="text.secondary" sx={{ maxWidth: 760, mb: 2 }}>
          Figures held against published values and against other libraries, as they were recorded
          with this version. On the command line “metaspira verify” calculates each of them anew.
        </Typography>
        <Stack direction="row" spacing={2} sx={{ alignItems: "center", mb: 1, flexWrap: "wrap" }}>
          <TextField
            size="small"
            label="Search cases and sources"
            value={words}
            onChange={(event) => setWords(event.target.value)}
            sx={{ width: 260 }}
          />
          <TextField
            select
            size="small"
            label="The other value is"
            value={standing}
            onChange={(event) => setStanding(event.target.value)}
            sx={{ width: 380 }}
          >
            <MenuItem value="">of any kind</MenuItem>
            {Object.entries(data.standings).map(([key, title]) => (
              <MenuItem key={key} value={key}>
                {title}
              </MenuItem>
            ))}
          </TextField>
          <Typography role="status" sx={{ flex: 1 }}>
            {count} {count === 1 ? "row" : "rows"}
            {figure && ` of “${figure.replaceAll("_", " ")}”`}
          </Typography>
          {figure && (
            <Button component={Link} to="/verification" variant="text">
              Show every figure
            </Button>
          )}
        </Stack>
        {families.map((family) => (
          <FamilyTable key={family.name} family={family} standings={data.standings} />
        ))}
        {count === 0 && <Typography>No row fits. Clear the search, or choose any kind.</Typography>}
      </Box>
    </Box>
  );
}

function fits(row: Row, words: string, standing: string): boolean {
  const text = `${row.case} ${row.source}`.toLowerCase();
  const asked = words.toLowerCase().split(/\s+/);
  return (!standing || row.standing === standing) && asked.every((word) => text.includes(word));
}

function FamilyTable(props: { family: Family; standings: ProofBook["standings"] }) {
  const { family, standings } = props;
  return (
    <Box component="section" aria-label={family.title} sx={{ mt: 3 }}>
      <Typography variant="h2" sx={{ mb: 1 }}>
        {family.title}
      </Typography>
      <DataTable
        label={family.title}
        heads={["Case", "Elsewhere", "Ours", "Off", "Allowed", "Unit"]}
        strong={2}
        quiet={[5]}
        rows={family.rows.flatMap((row, index) => {
          const before = family.rows[index - 1];
          const same = before?.source === row.source && before.standing === row.standing;
          const key = `${row.case} ${row.figures.join()}`;
          const told = (
            <Beneath>
              {row.source}: {standings[row.standing]}
            </Beneath>
          );
          const name = (
            <>
              <VerdictMark verdict={row.within ? "clear" : "stop"} size={9} /> {row.case}
            </>
          );
          const numbers = [
            exact(row.value, 8),
            exact(row.ours, 8),
            exact(row.off, 2),
            exact(row.allowed, 2),
          ];
          return [
            ...(same ? [] : [{ key: `${key} source`, cells: [told] }]),
            { key, cells: [name, ...numbers, row.unit] },
          ];
        })}
      />
    </Box>
  );
}

/** A number in so many digits; what is left of rounding is nothing. */
const exact = (value: number, most: number) =>
  Math.abs(value) < 1e-11 ? "0" : String(Number(value.toPrecision(most))).replaceAll("-", "−");
