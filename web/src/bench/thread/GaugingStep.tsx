import Stack from "@mui/material/Stack";
import { useThreadTold } from "../PartContext";
import { JudgedPanel } from "./JudgedPanel";
import { GaugingTable, SizesTable } from "./SizesTable";

export function GaugingStep() {
  const thread = useThreadTold().report?.thread;
  if (!thread?.standard) return null;
  const { standard, side } = thread;
  return (
    <Stack spacing={1.5}>
      <SizesTable standard={standard} />
      <JudgedPanel standard={standard} side={side} />
      <GaugingTable standard={standard} />
    </Stack>
  );
}
