// A landscape for the benches, in metres; made for this purpose. Declared from outside:
// NEAR the nearest thing, FOC the distance that is in focus, ANG the view across in degrees, JX and JY the camera's shift,
// ROLL in degrees, APERTURE the width of the lens's opening (0: everything is sharp), SAMPLES rays a pixel at the most,
// WIND what leaves and blades sway by, T the frame, counted from 0.
#version 3.7;
global_settings { assumed_gamma 1 max_trace_level 4 }
#declare HEIGHT = 0.34;

camera {
  perspective
  location <0, 0, 0>
  direction <0, 0, 1>
  right x * 1.5
  up y
  angle ANG
  #if (APERTURE > 0)
    aperture APERTURE
    focal_point <0, 0, FOC>
    blur_samples SAMPLES
    variance 1 / 20000
    confidence 0.97
  #end
  rotate z * ROLL
  translate <JX, HEIGHT + JY, 0>
}

light_source { <-40, 60, -30> rgb <1.05, 1, 0.92> }
light_source { <30, 40, -20> rgb 0.45 shadowless }
sky_sphere {
  pigment { gradient y color_map { [0 rgb <0.78, 0.84, 0.9>] [0.5 rgb <0.3, 0.48, 0.75>] } }
  pigment { bozo turbulence 0.6 scale <0.4, 0.12, 0.4> color_map { [0 rgbt 1] [0.55 rgbt 1] [1 rgbt <1, 1, 1, 0.2>] } }
}

// Where a thing that sways is in this frame: every one at a pace of its own, the wind the same for neighbours.
#macro Sway(Phase, Reach) (WIND * Reach * (0.7 * sin(2.4 * T + Phase) + 0.3 * sin(4.1 * T + 2.3 * Phase))) #end

// Ground: gravel and earth, rough at every scale.
plane {
  y, 0
  texture {
    pigment { granite scale 0.25 color_map { [0 rgb <0.2, 0.15, 0.1>] [0.4 rgb <0.42, 0.36, 0.26>] [0.7 rgb <0.35, 0.42, 0.2>] [1 rgb <0.6, 0.56, 0.46>] } }
    normal { granite 0.5 scale 0.04 }
  }
}

#declare R = seed(11);
// Stones, from the near point on.
#declare N = 0;
#while (N < 46)
  #declare Z = NEAR + 0.1 + 6 * pow(rand(R), 2.2);
  #declare X = (rand(R) - 0.5) * 1.3 * (Z + 0.15);
  #declare S = 0.02 + 0.03 * rand(R) * (0.5 + Z * 0.4);
  #declare G = 0.3 + 0.4 * rand(R);
  sphere {
    0, 1
    texture { pigment { granite turbulence 0.4 scale 0.7 color_map { [0 rgb G * <0.5, 0.48, 0.45>] [1 rgb G * <1.7, 1.6, 1.45>] } } normal { granite 0.6 scale 0.3 } }
    scale <S * 1.5, S * 0.9, S * 1.2> rotate y * 360 * rand(R) translate <X, S * 0.3, Z>
  }
  #declare N = N + 1;
#end

// Grass in front, at the left and at the right edge.
#macro Blade(X, Z, H, Lean, Tone)
  #local K = 0;
  #while (K < 7)
    #local A = K / 7;
    #local B = (K + 1) / 7;
    cone {
      <X + Lean * A * A, H * A, Z>, 0.0035 * (1 - A) + 0.0004
      <X + Lean * B * B, H * B, Z>, 0.0035 * (1 - B) + 0.0004
      pigment { gradient y scale 0.03 color_map { [0 rgb Tone * <0.5, 0.72, 0.2>] [0.5 rgb Tone * <0.36, 0.55, 0.14>] [1 rgb Tone * <0.5, 0.72, 0.2>] } }
      finish { specular 0.2 }
    }
    #local K = K + 1;
  #end
#end
#declare N = 0;
#while (N < 60)
  #declare Z = NEAR + 0.5 * rand(R);
  #declare SIDE = 2 * mod(N, 2) - 1;
  #declare X = SIDE * Z * (0.42 + 0.32 * rand(R));
  #declare H = 0.16 + 0.2 * rand(R);
  Blade(X, Z, H, (rand(R) - 0.5) * 0.12 + Sway(Z * 5 + N * 0.15, 0.05), 0.7 + 0.6 * rand(R))
  #declare N = N + 1;
#end

// A shrub in the middle: leaves of two greens on twigs.
#declare N = 0;
#while (N < 420)
  #declare U = 2 * pi * rand(R);
  #declare V = acos(1 - 2 * rand(R));
  #declare Q = 0.34 * pow(rand(R), 0.25);
  #declare P = <-0.42 + Q * sin(V) * cos(U), 0.52 + 1.15 * Q * cos(V), 2.3 + Q * sin(V) * sin(U)>;
  #declare Phase = 4 * P.x + 3 * P.y + 0.8 * rand(R);
  #declare Turn = <140 * rand(R), 360 * rand(R), 90 * rand(R)>;
  #declare Tone = 0.5 + 0.8 * rand(R);
  sphere {
    0, 1
    pigment { gradient x sine_wave scale 0.45 color_map { [0 rgb Tone * <0.2, 0.42, 0.12>] [0.8 rgb Tone * <0.34, 0.56, 0.18>] [1 rgb Tone * <0.62, 0.74, 0.36>] } }
    finish { specular 0.15 }
    scale <0.042, 0.004, 0.02> rotate Turn
    translate P + <Sway(Phase, 0.045), Sway(Phase + 1.3, 0.018), 0>
  }
  #declare N = N + 1;
#end
cylinder { <-0.42, 0, 2.3>, <-0.42, 0.4, 2.3>, 0.025 pigment { granite scale 0.1 color_map { [0 rgb <0.2, 0.13, 0.08>] [1 rgb <0.5, 0.36, 0.24>] } } }

// Fence with a board.
#declare N = 0;
#while (N < 9)
  box {
    <-0.045, 0, 0>, <0.045, 0.72 + 0.05 * rand(R), 0.03>
    pigment { wood turbulence 0.08 scale <0.03, 1.5, 0.03> color_map { [0 rgb <0.45, 0.33, 0.22>] [1 rgb <0.72, 0.58, 0.42>] } }
    translate <0.35 + N * 0.16, 0, 3.4 + N * 0.14>
  }
  #declare N = N + 1;
#end
union {
  box { <-0.3, -0.12, 0>, <0.3, 0.12, 0.02> pigment { rgb <0.85, 0.82, 0.72> } }
  text { ttf "timrom.ttf" "Mill path" 0.02, 0 pigment { rgb 0.08 } scale 0.13 translate <-0.26, -0.03, -0.005> }
  text { ttf "timrom.ttf" "ford closed after rain" 0.02, 0 pigment { rgb 0.08 } scale 0.055 translate <-0.25, -0.1, -0.005> }
  translate <0.85, 0.5, 3.25>
}

// Wall, trees and hills.
box {
  <-9, 0, 0>, <-1.6, 1.9, 0.4>
  pigment { brick rgb <0.66, 0.62, 0.56>, rgb <0.5, 0.25, 0.17> brick_size <0.24, 0.075, 0.12> mortar 0.012 }
  normal { granite 0.3 scale 0.05 }
  rotate y * -12 translate <-0.3, 0, 7.2>
}
#declare N = 0;
#while (N < 26)
  #declare Z = 14 + 30 * rand(R);
  #declare X = (rand(R) - 0.5) * 1.7 * Z;
  #declare S = 1.6 + 2.2 * rand(R);
  #declare Tone = 0.35 + 0.5 * rand(R);
  sphere {
    0, 1
    texture { pigment { granite scale 0.35 color_map { [0 rgb Tone * <0.08, 0.16, 0.06>] [0.5 rgb Tone * <0.3, 0.5, 0.2>] [1 rgb Tone * <0.6, 0.76, 0.36>] } } normal { granite 0.9 scale 0.12 } }
    scale <S, S * 1.3, S> translate <X, S * 1.2, Z>
  }
  #declare N = N + 1;
#end
height_field { function 300, 300 { pattern { bozo turbulence 0.6 scale 0.22 } } pigment { granite scale 0.05 color_map { [0 rgb <0.24, 0.3, 0.24>] [1 rgb <0.5, 0.56, 0.5>] } } scale <600, 46, 160> translate <-300, -9, 130> }
