#include "io/model_writer.h"

#include <sstream>

#include "io/gltf_maker.h"

namespace rubble::io {

Result<std::string> glb_of(const Project& project, const Model& model, const std::string& name) {
    GltfMaker maker(project);
    const int node = maker.add_node(name, -1);
    maker.node(node).mesh = maker.model_mesh(&model, name, model);
    const tinygltf::Model file = maker.finished();
    tinygltf::TinyGLTF writer;
    std::ostringstream out;
    if (!writer.WriteGltfSceneToStream(&file, out, false, true))
        return fail("export.gltf", name, "The model could not be put into glTF.");
    return out.str();
}

} // namespace rubble::io
