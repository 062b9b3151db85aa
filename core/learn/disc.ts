/** What a disc leaves of a wave: 2 J₁(x) / x. Source: Abramowitz & Stegun, 9.4.4 and 9.4.6. */
export function discPasses(x: number): number {
  if (x < 3) {
    const t = (x / 3) ** 2
    return 2 * (0.5 + t * (-0.56249985 + t * (0.21093573 + t * (-0.03954289 + t * (0.00443319 + t * (-0.00031761 + t * 0.00001109))))))
  }
  const t = 3 / x
  const size = 0.79788456 + t * (0.00000156 + t * (0.01659667 + t * (0.00017105 + t * (-0.00249511 + t * (0.00113653 - t * 0.00020033)))))
  const angle = x - 2.35619449 + t * (0.12499612 + t * (0.0000565 + t * (-0.00637879 + t * (0.00074348 + t * (0.00079824 - t * 0.00029166)))))
  return (2 * size * Math.cos(angle)) / Math.sqrt(x) / x
}
