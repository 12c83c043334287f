#pragma once

#include <array>
#include <cstdint>
#include <memory>
#include <string>
#include <vector>

#include "geometry/vec.h"
#include "level/dressing/picture_bytes.h"

namespace rubble {

/// What a part of a model looks like.
struct ModelMaterial {
    std::string name;
    std::array<double, 4> color{1, 1, 1, 1}; ///< linear; the last is its opacity
    double roughness = 1, metal = 0;
    int picture = -1; ///< of the model's, which multiplies the colour; -1: none
    bool two_sided = false;
    bool of_project = false; ///< its name is the id of one of the project's materials, which counts instead
    bool operator==(const ModelMaterial&) const = default;
};

/// Triangles of one material within one object. Lists of values of each point are empty or as long as the
/// points.
struct ModelPart {
    int node = 0;      ///< the object of the file it belongs to
    int material = -1; ///< of the model's; -1: bare stone
    std::vector<Vec3> points;
    std::vector<Vec3> normals;
    std::vector<Vec2> picture_places; ///< from the picture's upper left, in its width and height
    std::vector<std::array<float, 4>> colors;
    std::vector<std::array<uint32_t, 3>> triangles; ///< counter-clockwise seen from outside
    bool operator==(const ModelPart&) const = default;
};

/// What a file of a modelling program shows: triangles of its scene in the file's own axes, with the
/// transforms of its objects applied, each use of a mesh once more.
struct Model {
    std::vector<std::string> nodes; ///< names of the objects that have triangles
    std::vector<ModelPart> parts;
    std::vector<ModelMaterial> materials;
    std::vector<std::shared_ptr<const PictureBytes>> pictures;
    int scene_nodes = 0;               ///< all objects of the scene, with those that show nothing
    std::vector<std::string> warnings; ///< what was left out, each one sentence
};

/// Numbers of a model, in its own axes. The box is over points that triangles use; empty without any.
struct ModelNumbers {
    size_t triangles = 0, points = 0;
    Box3 box;
    double area_m2 = 0;
    double volume_m3 = 0; ///< signed: below 0 where faces look inwards; of closed models only it means much
};
/// What a model measures.
ModelNumbers numbers_of(const Model& model);

/// The lines along which faces meet at an angle, or end, as pairs of places in the model's axes.
std::vector<Vec3> edges_of(const Model& model);

} // namespace rubble
