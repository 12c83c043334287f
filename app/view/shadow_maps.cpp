#include "view/shadow_maps.h"

#include <algorithm>

#include <QOpenGLContext>

#include <glm/gtc/matrix_transform.hpp>

#include "view/uniforms.h"

namespace rubble::app {

namespace {

constexpr int k_sun_px = 2048, k_lamp_px = 512;
/// Texture units; the first is that of pictures.
constexpr int k_sun_unit = 1, k_lamp_unit = 2;
constexpr float k_lamp_near_m = 0.05f;

bool same(const std::optional<Light>& a, const Light& b) {
    return a && a->kind == b.kind && a->item == b.item && a->at == b.at && a->way == b.way &&
           a->reach_m == b.reach_m;
}

} // namespace

std::vector<Light> nearest_lights(const Camera& camera, std::vector<Light> lights, size_t most) {
    const Vec3 eye = camera.flat() ? camera.target : camera.eye();
    const auto counts = [&](const Light& light) {
        return light.kind == Light::Kind::sun
                   ? 1e12
                   : light.candela() / (1 + glm::dot(light.at - eye, light.at - eye));
    };
    std::stable_sort(lights.begin(), lights.end(),
                     [&](const Light& a, const Light& b) { return counts(a) > counts(b); });
    if (lights.size() > most) lights.resize(most);
    return lights;
}

void ShadowMaps::initialize() {
    initializeOpenGLFunctions();
    glGenFramebuffers(1, &frame_);
    const auto make = [this](GLuint& texture, GLenum target, int side, int layers) {
        glGenTextures(1, &texture);
        glBindTexture(target, texture);
        if (target == GL_TEXTURE_2D)
            glTexImage2D(target, 0, GL_DEPTH_COMPONENT24, side, side, 0, GL_DEPTH_COMPONENT, GL_UNSIGNED_INT,
                         nullptr);
        else
            glTexImage3D(target, 0, GL_DEPTH_COMPONENT24, side, side, layers, 0, GL_DEPTH_COMPONENT,
                         GL_UNSIGNED_INT, nullptr);
        for (const GLenum filter : {GLenum(GL_TEXTURE_MIN_FILTER), GLenum(GL_TEXTURE_MAG_FILTER)})
            glTexParameteri(target, filter, GL_LINEAR);
        for (const GLenum wrap : {GLenum(GL_TEXTURE_WRAP_S), GLenum(GL_TEXTURE_WRAP_T)})
            glTexParameteri(target, wrap, GL_CLAMP_TO_EDGE);
        glTexParameteri(target, GL_TEXTURE_COMPARE_MODE, GL_COMPARE_REF_TO_TEXTURE);
        glTexParameteri(target, GL_TEXTURE_COMPARE_FUNC, GL_LEQUAL);
        glBindTexture(target, 0);
    };
    make(sun_depth_, GL_TEXTURE_2D, k_sun_px, 1);
    make(lamp_depth_, GL_TEXTURE_2D_ARRAY, k_lamp_px, k_lamps * k_sides);
}

void ShadowMaps::release() {
    if (frame_ == 0) return;
    glDeleteFramebuffers(1, &frame_);
    glDeleteTextures(1, &sun_depth_);
    glDeleteTextures(1, &lamp_depth_);
    frame_ = sun_depth_ = lamp_depth_ = 0;
}

void ShadowMaps::update(const Camera& camera, const std::vector<Light>& lights, uint64_t scene,
                        const Box3& all, const Draw& draw) {
    if (lights.empty() || all.empty()) return;
    ++turn_;
    std::vector<Light> lamps;
    const Light* sun = nullptr;
    for (const Light& light : lights)
        light.kind == Light::Kind::sun ? void(sun = sun ? sun : &light) : lamps.push_back(light);
    lamps = nearest_lights(camera, std::move(lamps), k_lamps);
    std::vector<std::pair<int, const Light*>> stale;
    for (const Light& lamp : lamps)
        if (Slot* known = slot_of(lamp)) known->used = turn_;
    for (const Light& lamp : lamps) {
        Slot* slot = slot_of(lamp);
        if (slot && slot->scene == scene) continue;
        if (!slot)
            slot = std::min_element(std::begin(lamps_), std::end(lamps_),
                                    [](const Slot& a, const Slot& b) { return a.used < b.used; });
        slot->light = lamp, slot->scene = scene, slot->used = turn_;
        stale.emplace_back(int(slot - lamps_), &lamp);
    }
    const bool sun_stale = sun && (!same(sun_.light, *sun) || sun_.scene != scene);
    if (!sun) sun_.light.reset();
    if (!sun_stale && stale.empty()) return;

    GLint frame_before = 0, room_before[4];
    glGetIntegerv(GL_FRAMEBUFFER_BINDING, &frame_before);
    glGetIntegerv(GL_VIEWPORT, room_before);
    glBindFramebuffer(GL_FRAMEBUFFER, frame_);
    glDrawBuffer(GL_NONE);
    glReadBuffer(GL_NONE);
    glEnable(GL_DEPTH_TEST);
    glDepthMask(GL_TRUE);
    glDisable(GL_BLEND);
    glDisable(GL_CULL_FACE);
    glEnable(GL_POLYGON_OFFSET_FILL);
    glPolygonOffset(1.5f, 2);
    if (sun_stale) draw_sun(*sun, all, draw), sun_.light = *sun, sun_.scene = scene;
    for (const auto& [slot, lamp] : stale) draw_lamp(slot, *lamp, draw);
    glDisable(GL_POLYGON_OFFSET_FILL);
    glBindFramebuffer(GL_FRAMEBUFFER, GLuint(frame_before));
    glViewport(room_before[0], room_before[1], room_before[2], room_before[3]);
}

ShadowMaps::Slot* ShadowMaps::slot_of(const Light& light) {
    for (Slot& slot : lamps_)
        if (same(slot.light, light)) return &slot;
    return nullptr;
}

/// All of the scene, as the sun looks at it.
void ShadowMaps::draw_sun(const Light& sun, const Box3& all, const Draw& draw) {
    const glm::vec3 way(sun.way), middle(all.middle());
    const glm::vec3 up = std::abs(way.z) > 0.99f ? glm::vec3(0, 1, 0) : glm::vec3(0, 0, 1);
    const glm::mat4 looks = glm::lookAt(middle, middle + way, up);
    glm::vec3 low(1e9f), high(-1e9f);
    for (int corner = 0; corner < 8; ++corner) {
        const glm::vec3 p =
            looks * glm::vec4(corner & 1 ? all.high.x : all.low.x, corner & 2 ? all.high.y : all.low.y,
                              corner & 4 ? all.high.z : all.low.z, 1);
        low = glm::min(low, p), high = glm::max(high, p);
    }
    constexpr float k_beyond_m = 0.5f;
    sun_view_ = glm::ortho(low.x - k_beyond_m, high.x + k_beyond_m, low.y - k_beyond_m, high.y + k_beyond_m,
                           -high.z - k_beyond_m, -low.z + k_beyond_m) *
                looks;
    glViewport(0, 0, k_sun_px, k_sun_px);
    glFramebufferTexture2D(GL_FRAMEBUFFER, GL_DEPTH_ATTACHMENT, GL_TEXTURE_2D, sun_depth_, 0);
    glClear(GL_DEPTH_BUFFER_BIT);
    draw(sun_view_, all);
}

/// The six sides of a cube around it, as the shader tells them apart.
void ShadowMaps::draw_lamp(int slot, const Light& lamp, const Draw& draw) {
    const glm::vec3 at(lamp.at);
    const auto reach = float(lamp.reach_m);
    const glm::mat4 seen = glm::perspective(glm::radians(90.0f), 1.0f, k_lamp_near_m, reach);
    const Box3 within = Box3{lamp.at, lamp.at}.grown(lamp.reach_m);
    glViewport(0, 0, k_lamp_px, k_lamp_px);
    for (int side = 0; side < k_sides; ++side) {
        const int axis = side / 2;
        const float sign = side % 2 ? -1.0f : 1.0f;
        glm::vec3 ahead(0), up(0);
        ahead[axis] = sign, up[(axis + 2) % 3] = -sign;
        glFramebufferTextureLayer(GL_FRAMEBUFFER, GL_DEPTH_ATTACHMENT, lamp_depth_, 0, slot * k_sides + side);
        glClear(GL_DEPTH_BUFFER_BIT);
        draw(seen * glm::lookAt(at, at + ahead, up), within);
    }
}

void ShadowMaps::set(QOpenGLShaderProgram& program, const std::vector<Light>& lights) {
    // Set even where there are none: samplers of two kinds must not share a unit.
    program.setUniformValue("sun_depth", k_sun_unit);
    program.setUniformValue("lamp_depth", k_lamp_unit);
    if (lights.empty()) return;
    std::array<GLint, 16> first{};
    for (size_t i = 0; i < std::min(lights.size(), first.size()); ++i) {
        first[i] = -1;
        if (lights[i].kind == Light::Kind::sun)
            first[i] = same(sun_.light, lights[i]) ? 0 : -1;
        else if (const Slot* slot = slot_of(lights[i]))
            first[i] = GLint(slot - lamps_) * k_sides;
    }
    program.setUniformValueArray("shadow_first", first.data(), int(first.size()));
    set_matrix(program, "sun_view", sun_view_);
    glActiveTexture(GL_TEXTURE0 + k_sun_unit);
    glBindTexture(GL_TEXTURE_2D, sun_depth_);
    glActiveTexture(GL_TEXTURE0 + k_lamp_unit);
    glBindTexture(GL_TEXTURE_2D_ARRAY, lamp_depth_);
    glActiveTexture(GL_TEXTURE0);
}

} // namespace rubble::app
