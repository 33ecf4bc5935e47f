import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";
import { Link, useParams } from "react-router";
import { PageHeader } from "../look/PageHeader";
import { actions, WALKS } from "./walks";

/** The walks of the guide at the left, and one of them. */
export function GuidePage() {
  const { walk: key } = useParams();
  const walk = WALKS.find((one) => one.key === key) ?? WALKS[0]!;
  const says = walk.steps.flatMap(({ say }) => (say ? [say] : []));
  return (
    <Box sx={{ display: "grid", gridTemplateRows: "46px auto" }}>
      <PageHeader>
        <Typography component="h1" variant="h1" sx={{ flex: 1, fontSize: "1.15rem" }}>
          Guide
        </Typography>
      </PageHeader>
      <Box
        sx={{
          maxWidth: 1000,
          width: "100%",
          mx: "auto",
          p: 3,
          display: "grid",
          gap: 4,
          gridTemplateColumns: { xs: "1fr", md: "300px 1fr" },
        }}
      >
        <Box component="nav" aria-label="Walks">
          {WALKS.map((one) => (
            <Button
              key={one.key}
              component={Link}
              to={`/guide/${one.key}`}
              variant={one === walk ? "outlined" : "text"}
              aria-current={one === walk ? "page" : undefined}
              fullWidth
              sx={{ justifyContent: "flex-start", textAlign: "left" }}
            >
              {one.title}
            </Button>
          ))}
        </Box>
        <Box component="main">
          <Typography variant="h2" sx={{ fontSize: "1.3rem" }}>
            {walk.title}
          </Typography>
          <Typography color="text.secondary" gutterBottom>
            {walk.about} {actions(walk)} presses and fields.
          </Typography>
          <Box component="ol" sx={{ pl: 2.5, "& li": { mb: 1.25 } }}>
            {says.map((say) => (
              <li key={say}>{say}</li>
            ))}
          </Box>
          <Box component="figure" sx={{ m: 0, mb: 2 }}>
            <img
              src={`/api/starts/${walk.drawn}/drawing`}
              alt="View with the dimensions of the part that this walk begins with"
              style={{ width: 440, maxWidth: "100%", background: "white", padding: 12 }}
            />
            <Typography
              component="figcaption"
              variant="caption"
              color="text.secondary"
              sx={{ display: "block" }}
            >
              What is measured where, on the part that it begins with or one like it.
            </Typography>
          </Box>
          <Typography variant="body2" color="text.secondary">
            How the figures were checked: <Link to="/verification">the book of proof</Link>. Open
            the shelf in a second window and follow along. Ctrl+. lists every command of the bench
            with its keys.
          </Typography>
        </Box>
      </Box>
    </Box>
  );
}
