import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";
import { Canvas } from "@react-three/fiber";
import { Component, useState, type ReactNode } from "react";
import { WebGLRenderer, type WebGLRendererParameters } from "three";

class NoWebGL extends Error {}

/** What draws; throws NoWebGL where the browser cannot. */
function drawer(props: WebGLRendererParameters) {
  try {
    const renderer = new WebGLRenderer(props);
    renderer.localClippingEnabled = true;
    return renderer;
  } catch {
    throw new NoWebGL();
  }
}

class Drawn extends Component<{ children: ReactNode }, { able: boolean }> {
  state = { able: true };

  static getDerivedStateFromError(reason: unknown) {
    if (!(reason instanceof NoWebGL)) throw reason;
    return { able: false };
  }

  render() {
    if (this.state.able) return this.props.children;
    return (
      <Said title="This browser cannot show the part in 3D">
        WebGL is switched off or missing. Figures, checks, drawings and files work without it;
        switch WebGL on to see the part.
      </Said>
    );
  }
}

/** The place where the part is drawn in space; says so where the browser cannot draw, or lost what it drew with. */
export function Space({ children }: { children: ReactNode }) {
  const [lost, setLost] = useState(false);
  if (lost) {
    return (
      <Said title="The 3D view was lost">
        The graphics of this computer were reset. The design is as it was.{" "}
        <Button onClick={() => setLost(false)}>Draw it again</Button>
      </Said>
    );
  }
  return (
    <Drawn>
      <Canvas
        frameloop="demand"
        gl={(props) => drawer(props as WebGLRendererParameters)}
        dpr={[0.5, 2]}
        onCreated={({ gl }) =>
          gl.domElement.addEventListener("webglcontextlost", (event) => {
            event.preventDefault();
            if (gl.domElement.isConnected) setLost(true);
          })
        }
      >
        {children}
      </Canvas>
    </Drawn>
  );
}

function Said({ title, children }: { title: string; children: ReactNode }) {
  return (
    <Box sx={{ position: "absolute", inset: 0, display: "grid", placeContent: "center" }}>
      <Box sx={{ maxWidth: 380 }} role="alert">
        <Typography variant="h2" gutterBottom>
          {title}
        </Typography>
        <Typography component="div">{children}</Typography>
      </Box>
    </Box>
  );
}
