#pragma once
/// \file The shaders of the stand (GLSL 3.30).

namespace gc::app::shaders {

inline constexpr const char* kMeshVertex = R"(#version 330 core
layout(location = 0) in vec3 position;
layout(location = 1) in vec3 normal;
layout(location = 2) in uint face;
layout(location = 3) in vec4 values; // wall by ray, wall by ball, lean, deviation
uniform mat4 uBoth, uView;
uniform vec4 uPlane;
uniform uint uFirst;
out vec3 vNormal;
out vec4 vValues;
flat out uint vId;
out float gl_ClipDistance[1];
void main() {
    vec4 p = vec4(position, 1);
    gl_Position = uBoth * p;
    vNormal = mat3(uView) * normal;
    vValues = values;
    vId = uFirst + face;
    gl_ClipDistance[0] = dot(uPlane, p);
})";

inline constexpr const char* kMeshFragment = R"(#version 330 core
in vec3 vNormal;
in vec4 vValues;
flat in uint vId;
out vec4 colour;
uniform int uOverlay; // 0 none, 1 ray, 2 ball, 3 lean, 4 stripes, 5 bending, 6 deviation
uniform vec2 uRange;
uniform vec3 uBase, uHalo, uNone;
uniform vec3 uMap[6], uHollow, uFlat, uBulging;
uniform uint uHovered;
uniform usamplerBuffer uMarks; // of every face, then of every edge: is it picked?
vec3 mapped(float t) {
    t = clamp(t, 0., 1.) * 5.;
    int i = min(int(t), 4);
    return mix(uMap[i], uMap[i + 1], t - float(i));
}
void main() {
    vec3 n = normalize(vNormal);
    bool back = !gl_FrontFacing;
    if (back) n = -n;
    vec3 key = normalize(vec3(-.55, .38, .76)), fill = normalize(vec3(.85, .05, .40));
    float light = .58 * max(dot(n, key), 0.) + .17 * max(dot(n, fill), 0.) + .38 + .07 * n.y;
    float shine = pow(max(dot(reflect(-key, n), vec3(0, 0, 1)), 0.), 22.) * .10;
    float rim = pow(1. - max(n.z, 0.), 3.) * .10;
    vec3 base = uBase;
    if (uOverlay == 4) { // level lines of light, as a tunnel of lamps would throw them
        float turn = asin(clamp(reflect(vec3(0, 0, -1), n).y, -1., 1.)) * 7.6394; // 12 bands of half a turn
        float wide = max(fwidth(turn), 1e-4);
        float band = abs(fract(turn) - .5);
        float dark = smoothstep(.25 - wide, .25 + wide, band);
        base = mix(uBase, vec3(.10, .11, .12), dark * .82);
        light = .45 + .55 * light;
        shine = 0.;
    } else if (uOverlay == 5) { // uRange.x: the curvature that is half way to the full colour
        float t = vValues.x / (abs(vValues.x) + uRange.x);
        base = mix(uFlat, t < 0. ? uHollow : uBulging, abs(t));
        light = .4 + .6 * light;
        shine *= .4;
    } else if (uOverlay == 6) { // uRange.y: at that it has the full colour
        float t = clamp(vValues.w / uRange.y, -1., 1.);
        base = isnan(vValues.w) ? uNone : mix(uFlat, t < 0. ? uHollow : uBulging, abs(t));
        light = .4 + .6 * light;
        shine *= .4;
    } else if (uOverlay > 0) {
        float v = uOverlay == 1 ? vValues.x : uOverlay == 2 ? vValues.y : vValues.z;
        bool none = isnan(v) || (uOverlay < 3 && v < 0.);
        base = none ? uNone : mapped((v - uRange.x) / (uRange.y - uRange.x));
        light = .35 + .65 * light;
        shine *= .4;
    } else {
        if (texelFetch(uMarks, int(vId)).r != 0u) base = mix(base, uHalo, .55);
        else if (uHovered != 0u && vId == uHovered) base = mix(base, uHalo, .30);
    }
    if (back) base *= .82;
    colour = vec4(base * light + vec3(shine + rim), 1.);
})";

/// Feathered quads along edge segments, widened on the screen; four vertices an instance.
inline constexpr const char* kEdgeVertex = R"(#version 330 core
layout(location = 0) in vec3 a;
layout(location = 1) in vec3 b;
layout(location = 2) in uint id;
layout(location = 3) in float smoothness;
uniform mat4 uBoth;
uniform vec2 uPixels;
uniform float uWidth, uBias;
uniform vec4 uPlane;
uniform uint uHovered;
uniform usamplerBuffer uMarks;
uniform int uEdgesFrom;
out float vOff;
out float vHalf;
out float vKind; // 0 plain, 1 smooth, 2 hovered or chosen
flat out uint vId;
out float gl_ClipDistance[1];
void main() {
    bool lit = uHovered != 0u && id == uHovered;
    lit = lit || texelFetch(uMarks, uEdgesFrom + int(id & 0x7fffffffu)).r != 0u;
    float width = lit ? max(uWidth, 3.6) : uWidth;
    vec4 A = uBoth * vec4(a, 1), B = uBoth * vec4(b, 1);
    vec2 sa = A.xy / A.w * uPixels * .5, sb = B.xy / B.w * uPixels * .5;
    vec2 d = sb - sa;
    float l = length(d);
    d = l > 1e-5 ? d / l : vec2(1, 0);
    vec2 n = vec2(-d.y, d.x);
    bool end = gl_VertexID >= 2;
    float side = (gl_VertexID & 1) == 0 ? -1. : 1.;
    float reach = width * .5 + 1.;
    vec4 P = end ? B : A;
    vec2 q = (end ? sb : sa) + n * side * reach + d * (end ? .5 : -.5);
    gl_Position = vec4(q / (uPixels * .5) * P.w, P.z - uBias * P.w, P.w);
    vOff = side * reach;
    vHalf = width * .5;
    vKind = lit ? 2. : smoothness;
    vId = id;
    gl_ClipDistance[0] = dot(uPlane, vec4(end ? b : a, 1));
})";

inline constexpr const char* kEdgeFragment = R"(#version 330 core
in float vOff;
in float vHalf;
in float vKind;
flat in uint vId;
out vec4 colour;
uniform vec4 uInk;
uniform vec3 uHalo;
void main() {
    float cover = clamp(vHalf + .5 - abs(vOff), 0., 1.);
    vec4 c = vKind > 1.5 ? vec4(uHalo, 1.) : vKind > .5 ? vec4(uInk.rgb, uInk.a * .28) : uInk;
    colour = vec4(c.rgb, c.a * cover);
    if (colour.a < .01) discard;
})";

inline constexpr const char* kGhostFragment = R"(#version 330 core
out vec4 colour;
uniform vec3 uInk;
uniform float uStrength;
void main() {
    float t = (gl_FragCoord.x - gl_FragCoord.y) * .70711 / 7.;
    float f = abs(fract(t) - .5) * 7.;
    float line = clamp(1.3 - f, 0., 1.);
    colour = vec4(uInk, uStrength * (.22 + .78 * line));
})";

inline constexpr const char* kIdFragment = R"(#version 330 core
flat in uint vId;
out uint id;
void main() { id = vId; })";

inline constexpr const char* kCapVertex = R"(#version 330 core
uniform mat4 uBoth;
uniform vec4 uPlane;
uniform vec3 uCentre;
uniform float uReach;
void main() {
    vec3 n = normalize(uPlane.xyz);
    vec3 u = normalize(abs(n.z) < .9 ? cross(n, vec3(0, 0, 1)) : cross(n, vec3(1, 0, 0))), v = cross(n, u);
    vec3 c = uCentre - n * (dot(uPlane.xyz, uCentre) + uPlane.w) / length(uPlane.xyz);
    vec2 k = vec2((gl_VertexID & 1) * 2 - 1, (gl_VertexID >> 1) * 2 - 1) * uReach;
    gl_Position = uBoth * vec4(c + u * k.x + v * k.y, 1);
})";

inline constexpr const char* kCapFragment = R"(#version 330 core
out vec4 colour;
uniform vec3 uGround, uHatch;
void main() {
    float t = (gl_FragCoord.x + gl_FragCoord.y) * .70711 / 6.;
    float f = abs(fract(t) - .5) * 6.;
    colour = vec4(mix(uGround, uHatch, clamp(1.1 - f, 0., 1.) * .85), 1.);
})";

inline constexpr const char* kBackgroundVertex = R"(#version 330 core
out vec2 at;
void main() {
    at = vec2((gl_VertexID << 1) & 2, gl_VertexID & 2);
    gl_Position = vec4(at * 2. - 1., 1, 1);
})";

inline constexpr const char* kBackgroundFragment = R"(#version 330 core
in vec2 at;
out vec4 colour;
uniform vec3 uLight, uDeep;
void main() {
    float d = length((at - vec2(.5, .58)) * vec2(1., 1.15));
    colour = vec4(mix(uLight, uDeep, smoothstep(.12, .85, d)), 1.);
})";

inline constexpr const char* kShadowVertex = R"(#version 330 core
uniform mat4 uBoth;
uniform vec3 uCentre;
uniform vec2 uRadius;
out vec2 at;
void main() {
    at = vec2((gl_VertexID & 1) * 2 - 1, (gl_VertexID >> 1) * 2 - 1) * 1.9;
    gl_Position = uBoth * vec4(uCentre + vec3(at * uRadius, 0), 1);
})";

inline constexpr const char* kShadowFragment = R"(#version 330 core
in vec2 at;
out vec4 colour;
uniform float uStrength;
void main() {
    float r = length(at);
    float soft = 1. - smoothstep(.55, 1.85, r);
    float contact = 1. - smoothstep(.75, 1.10, r);
    colour = vec4(.13, .09, .05, uStrength * (.55 * soft * soft + .35 * contact));
})";

} // namespace gc::app::shaders
