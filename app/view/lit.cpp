#include "view/lit.h"

#include <algorithm>
#include <array>

#include "base/angle.h"
#include "view/uniforms.h"

namespace rubble::app {

namespace {

constexpr const char* k_lights = R"(uniform int light_count; // 0: as by day
uniform vec4 light_at[16];    // reach; below 0: the sun, which comes from everywhere alike
uniform vec4 light_color[16]; // already as strong as it is seen; the cosine of half its opening
uniform vec3 light_way[16];
vec3 lit(vec3 at, vec3 n) {
    vec3 sum = vec3(0.10 + 0.05 * n.z); // what comes from the sky and off the walls
    for (int i = 0; i < light_count; ++i) {
        if (light_at[i].w < 0.0) {
            sum += light_color[i].rgb * max(-dot(n, light_way[i]), 0.0) + light_color[i].rgb * (0.18 + 0.08 * n.z);
            continue;
        }
        vec3 to = light_at[i].xyz - at;
        float far = length(to), part = far / light_at[i].w;
        if (part >= 1.0) continue;
        float fades = 1.0 - part * part * part * part;
        float inside = smoothstep(light_color[i].w, light_color[i].w + 0.05, -dot(to / far, light_way[i]));
        if (light_color[i].w <= -0.999) inside = 1.0;
        sum += light_color[i].rgb * inside * fades * fades * max(dot(n, to / far), 0.0) / max(far * far, 0.01);
    }
    return vec3(1.0) - exp(-sum); // as an eye takes it
}
)";

} // namespace

QByteArray with_lights(const char* shader) { return QByteArray(shader).replace("LIGHTS", k_lights); }

void set_lights(QOpenGLShaderProgram& program, const Camera& camera, std::vector<Light> lights) {
    constexpr size_t k_most = 16;
    constexpr double k_indoors_lux = 150, k_sun_seen = 2.0;
    const Vec3 eye = camera.flat() ? camera.target : camera.eye();
    double sun = 0;
    for (const Light& light : lights)
        if (light.kind == Light::Kind::sun) sun += light.strength;
    const auto counts = [&](const Light& light) {
        return light.kind == Light::Kind::sun
                   ? 1e12
                   : light.candela() / (1 + glm::dot(light.at - eye, light.at - eye));
    };
    std::stable_sort(lights.begin(), lights.end(),
                     [&](const Light& a, const Light& b) { return counts(a) > counts(b); });
    if (lights.size() > k_most) lights.resize(k_most);
    const double seen = k_sun_seen / std::max(sun, k_indoors_lux); // of one lux
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
    if (lights.empty()) return;
    program.setUniformValueArray("light_at", at.data(), int(lights.size()));
    program.setUniformValueArray("light_color", color.data(), int(lights.size()));
    program.setUniformValueArray("light_way", way.data(), int(lights.size()));
}

} // namespace rubble::app
