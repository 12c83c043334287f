#include "view/lit.h"

#include <algorithm>
#include <array>

#include "base/angle.h"
#include "view/shadow_maps.h"
#include "view/uniforms.h"

namespace rubble::app {

namespace {

constexpr const char* k_lights = R"(uniform float in_the_dark;
uniform int light_count; // 0: as by day
uniform vec4 light_at[16];    // reach; below 0: the sun, which comes from everywhere alike
uniform vec4 light_color[16]; // already as strong as it is seen; the cosine of half its opening
uniform vec3 light_way[16];
uniform int shadow_first[16]; // of its maps; below 0: it throws none
uniform sampler2DShadow sun_depth;
uniform sampler2DArrayShadow lamp_depth;
uniform mat4 sun_view;
float sun_gets(vec3 at) {
    vec3 p = (sun_view * vec4(at, 1.0)).xyz * 0.5 + 0.5;
    float sum = 0.0, dot_size = 1.0 / 2048.0;
    for (int x = -1; x <= 1; ++x)
        for (int y = -1; y <= 1; ++y) sum += texture(sun_depth, vec3(p.xy + vec2(x, y) * dot_size, p.z - 0.0003));
    return sum / 9.0;
}
// The six sides of a cube about the lamp; how deep a place is, as they were drawn.
float lamp_gets(int first, vec3 from, float reach, vec3 at) {
    vec3 d = at - from, a = abs(d);
    int axis = a.x >= a.y && a.x >= a.z ? 0 : a.y >= a.z ? 1 : 2;
    float ahead = max(a[axis], 1e-4), s = d[axis] < 0.0 ? -1.0 : 1.0, near = 0.05;
    vec2 p = vec2(d[(axis + 1) % 3], -s * d[(axis + 2) % 3]) / ahead * 0.5 + 0.5;
    float z = (reach + near) / (reach - near) - 2.0 * reach * near / ((reach - near) * ahead);
    float side = float(first + axis * 2 + (s < 0.0 ? 1 : 0));
    return texture(lamp_depth, vec4(p, side, z * 0.5 + 0.5 - 0.00005));
}
vec3 lit(vec3 at, vec3 n) {
    vec3 sum = vec3(in_the_dark * (1.0 + 0.5 * n.z)); // what comes off the walls
    for (int i = 0; i < light_count; ++i) {
        if (light_at[i].w < 0.0) {
            float gets = max(-dot(n, light_way[i]), 0.0);
            if (gets > 0.0 && shadow_first[i] >= 0) gets *= sun_gets(at + n * 0.03);
            sum += light_color[i].rgb * gets + light_color[i].rgb * (0.18 + 0.08 * n.z);
            continue;
        }
        vec3 to = light_at[i].xyz - at;
        float far = length(to), part = far / light_at[i].w;
        if (part >= 1.0) continue;
        float fades = 1.0 - part * part * part * part;
        float inside = smoothstep(light_color[i].w, light_color[i].w + 0.05, -dot(to / far, light_way[i]));
        if (light_color[i].w <= -0.999) inside = 1.0;
        float faces = max(dot(n, to / far), 0.0);
        if (faces * inside <= 0.0) continue;
        if (shadow_first[i] >= 0) inside *= lamp_gets(shadow_first[i], light_at[i].xyz, light_at[i].w, at + n * 0.03);
        sum += light_color[i].rgb * inside * fades * fades * faces / max(far * far, 0.01);
    }
    return vec3(1.0) - exp(-sum); // as an eye takes it
}
)";

} // namespace

QByteArray with_lights(const char* shader) { return QByteArray(shader).replace("LIGHTS", k_lights); }

double lux_used_to(const std::vector<Light>& lights, double arrives) {
    constexpr double k_least_lux = 2, k_from_m = 3;
    std::vector<double> usual;
    for (const Light& light : lights)
        if (light.kind == Light::Kind::lamp) usual.push_back(light.candela() / (k_from_m * k_from_m));
    if (usual.empty()) return std::max(arrives, k_least_lux);
    std::nth_element(usual.begin(), usual.begin() + std::ptrdiff_t(usual.size() / 2), usual.end());
    return std::max({arrives, usual[usual.size() / 2], k_least_lux});
}

void set_lights(QOpenGLShaderProgram& program, const Camera& camera, const std::vector<Light>& all,
                const UsedTo& eye, ShadowMaps* shadows) {
    constexpr size_t k_most = 16;
    constexpr double k_seen = 2.0; // of what one is used to
    const std::vector<Light> lights = nearest_lights(camera, all, k_most);
    const double seen = k_seen / std::max(eye.lux, 1e-3); // of one lux
    program.setUniformValue("in_the_dark", float(eye.in_the_dark));
    std::array<QVector4D, k_most> at, color;
    std::array<QVector3D, k_most> way;
    for (size_t i = 0; i < lights.size(); ++i) {
        const Light& light = lights[i];
        const bool is_sun = light.kind == Light::Kind::sun;
        const Vec3 shown = light.color * ((is_sun ? light.strength : light.candela()) * seen);
        const double half = radians(std::min(light.opening_deg, 360.0) / 2);
        at[i] = QVector4D(vector_of(light.at), is_sun ? -1.0f : float(light.reach_m));
        color[i] = QVector4D(vector_of(shown), float(std::cos(half)));
        way[i] = vector_of(light.way);
    }
    program.setUniformValue("light_count", int(lights.size()));
    if (shadows) shadows->set(program, lights);
    if (lights.empty()) return;
    program.setUniformValueArray("light_at", at.data(), int(lights.size()));
    program.setUniformValueArray("light_color", color.data(), int(lights.size()));
    program.setUniformValueArray("light_way", way.data(), int(lights.size()));
}

} // namespace rubble::app
