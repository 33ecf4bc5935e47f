import Stack from "@mui/material/Stack";
import { useThreadContext } from "../PartContext";
import { GaugingTable, SizesTable } from "./SizesTable";

export function GaugingStep() {
  const standard = useThreadContext().part.report?.thread.standard;
  if (!standard) return null;
  return (
    <Stack spacing={1.5}>
      <SizesTable standard={standard} />
      <GaugingTable standard={standard} />
    </Stack>
  );
}
