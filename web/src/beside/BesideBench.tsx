import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Stack from "@mui/material/Stack";
import Typography from "@mui/material/Typography";
import type { ReactNode } from "react";
import { useNavigate, useParams } from "react-router";
import type { Design } from "../api/client";
import { useDesignHead } from "../api/useDesignHead";
import { CannotOpen, Opening } from "../look/Opening";
import { PageHeader } from "../look/PageHeader";

/** Fetches the design that the address names; its newest revision is worked with. */
export function DesignPage({ children }: { children: (design: Design) => ReactNode }) {
  const { id = "" } = useParams();
  const { data: design, error } = useDesignHead(id);
  if (error) return <CannotOpen error={error} />;
  if (!design) return <Opening />;
  return children(design);
}

interface Props {
  design: Design;
  title: string;
  left: ReactNode;
  /** None where the middle takes its room. */
  right?: ReactNode;
  rightWidth?: number;
  children: ReactNode;
}

/** A page beside the bench: what is asked for left, what is shown in the middle, figures right. */
export function BesideBench({ design, title, left, right, rightWidth = 330, children }: Props) {
  const navigate = useNavigate();
  return (
    <Box
      component="main"
      sx={{
        height: "100dvh",
        display: "grid",
        gridTemplateColumns: `352px minmax(0, 1fr) ${right ? `${rightWidth}px` : ""}`,
        gridTemplateRows: "46px minmax(0, 1fr)",
      }}
    >
      <PageHeader>
        <Typography variant="h1" sx={{ fontSize: "1.15rem", flex: 1 }} noWrap>
          {title} {design.name}
        </Typography>
        <Button variant="outlined" onClick={() => navigate(`/designs/${design.id}`)}>
          Back to the bench
        </Button>
      </PageHeader>
      <Stack
        spacing={1.5}
        sx={{ p: 1.5, overflowY: "auto", borderRight: 1, borderColor: "divider" }}
      >
        {left}
      </Stack>
      {children}
      {right && (
        <Stack
          spacing={2}
          sx={{ p: 1.5, overflowY: "auto", borderLeft: 1, borderColor: "divider" }}
        >
          {right}
        </Stack>
      )}
    </Box>
  );
}
