#pragma once

#include <functional>
#include <map>
#include <optional>

#include <QOpenGLFunctions_3_3_Core>
#include <QOpenGLShaderProgram>

#include <glm/mat4x4.hpp>

#include "level/dressing/light.h"
#include "view/camera.h"

namespace rubble::app {

/// What light gets by: how far from the sun, and from some lamps each way, the first matter is (Williams,
/// "Casting curved shadows on curved surfaces", 1978). Drawn anew for what changed alone. Needs its context
/// current in every call.
class ShadowMaps : protected QOpenGLFunctions_3_3_Core {
public:
    /// Draws matter with a matrix, as far as it is in a box.
    using Draw = std::function<void(const glm::mat4& view, const Box3& within)>;

    ShadowMaps() = default;
    ShadowMaps(const ShadowMaps&) = delete;
    ShadowMaps& operator=(const ShadowMaps&) = delete;
    void initialize();
    void release();

    /// Makes the maps of the lights that count most from where the eye is. `scene` tells scenes apart; `all`
    /// is the box around what throws shadows.
    void update(const Camera& camera, const std::vector<Light>& lights, uint64_t scene, const Box3& all,
                const Draw& draw);

    /// Tells a program of them, for lights in an order of their own.
    void set(QOpenGLShaderProgram& program, const std::vector<Light>& lights);

private:
    static constexpr int k_lamps = 4, k_sides = 6;
    struct Slot {
        std::optional<Light> light;
        uint64_t scene = 0, used = 0;
    };
    void draw_sun(const Light& sun, const Box3& all, const Draw& draw);
    void draw_lamp(int slot, const Light& lamp, const Draw& draw);
    Slot* slot_of(const Light& light);

    GLuint frame_ = 0, sun_depth_ = 0, lamp_depth_ = 0;
    Slot sun_;
    glm::mat4 sun_view_{1};
    Slot lamps_[k_lamps];
    uint64_t turn_ = 0;
};

/// The lights of a level that count most from where the eye is, those first.
std::vector<Light> nearest_lights(const Camera& camera, std::vector<Light> lights, size_t most);

} // namespace rubble::app
