// What draws in the round here: nothing, a program, or a graphics card.

export type Ability = "none" | "slow" | "quick";

export function ability(): Ability {
  const context = document.createElement("canvas").getContext("webgl2");
  if (!context) return "none";
  const told = context.getExtension("WEBGL_debug_renderer_info");
  const name = String(context.getParameter(told ? told.UNMASKED_RENDERER_WEBGL : context.RENDERER));
  // Browsers only have a few of these.
  context.getExtension("WEBGL_lose_context")?.loseContext();
  return /swiftshader|llvmpipe|software|basic render/i.test(name) ? "slow" : "quick";
}
