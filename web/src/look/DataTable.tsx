import Box from "@mui/material/Box";
import type { ReactNode } from "react";

export interface DataRow {
  key: string;
  /** One of all columns says what the rows below it have in common. */
  cells: ReactNode[];
  /** What stands behind it, for the pointer. */
  title?: string;
  chosen?: boolean;
  onChoose?: () => void;
}

interface Props {
  /** What the table is of; none where a heading says it. */
  label?: string;
  /** What its columns are; none where the rows say it. */
  heads?: ReactNode[];
  rows: DataRow[];
  /** Columns of words, at the left; others hold numbers. */
  words?: number[];
  /** The column that is asked for. */
  strong?: number;
  /** Columns of units and remarks. */
  quiet?: number[];
}

/** A table: words at the left, numbers aligned at the right. */
export function DataTable({ label, heads, rows, words = [0], strong, quiet = [] }: Props) {
  const columns = heads?.length ?? 0;
  const cell = (column: number, head = false) => {
    const isQuiet = quiet.includes(column);
    const isText = words.includes(column);
    return {
      textAlign: isText || isQuiet ? "left" : "right",
      pl: column === 0 ? 0 : isQuiet ? 0.5 : 1.25,
      fontWeight: head || column === strong ? 600 : 400,
      color: isQuiet ? "text.secondary" : "text.primary",
      whiteSpace: isText ? "normal" : "nowrap",
    } as const;
  };
  return (
    <Box
      component="table"
      aria-label={label}
      sx={{
        width: "100%",
        borderCollapse: "collapse",
        fontSize: "0.82rem",
        fontVariantNumeric: "tabular-nums",
        "& td": { borderBottom: 1, borderColor: "divider", py: 0.5, verticalAlign: "top" },
        "& thead td": { borderBottom: 0 },
        "& thead th": {
          py: 0.5,
          ...(rows.some(({ onChoose }) => onChoose) && {
            position: "sticky",
            top: 0,
            bgcolor: "background.default",
          }),
        },
      }}
    >
      {heads && (
        <thead>
          <tr>
            {heads.map((head, column) => (
              <Box
                component={head ? "th" : "td"}
                scope={head ? "col" : undefined}
                key={column}
                sx={cell(column, true)}
              >
                {head}
              </Box>
            ))}
          </tr>
        </thead>
      )}
      <tbody>
        {rows.map(({ key, cells, title, chosen, onChoose }) => (
          <Box
            component="tr"
            key={key}
            title={title}
            aria-current={chosen || undefined}
            onClick={onChoose}
            sx={({ palette }) => ({
              bgcolor: chosen ? "action.hover" : "transparent",
              cursor: onChoose ? "pointer" : "auto",
              "&:hover": { bgcolor: "action.hover" },
              ...(chosen && {
                "& td:first-of-type": { boxShadow: `inset 3px 0 0 ${palette.primary.main}`, pl: 1 },
              }),
            })}
          >
            {cells.map((content, column) => (
              <Box
                component="td"
                key={column}
                colSpan={cells.length === 1 && columns > 1 ? columns : undefined}
                sx={cell(column)}
              >
                {content}
              </Box>
            ))}
          </Box>
        ))}
      </tbody>
    </Box>
  );
}
