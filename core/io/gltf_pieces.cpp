#include "io/gltf_pieces.h"

#include <cmath>

#include "build/piece_matter.h"
#include "level/turning.h"

namespace rubble::io {

tinygltf::Value value_of(const nlohmann::json& json) {
    if (json.is_boolean()) return tinygltf::Value(json.get<bool>());
    // The writer knows whole numbers of 32 bits alone; larger ones keep their value as a real number.
    if (json.is_number_integer() && json == json.get<int>()) return tinygltf::Value(json.get<int>());
    if (json.is_number()) return tinygltf::Value(json.get<double>());
    if (json.is_string()) return tinygltf::Value(json.get<std::string>());
    if (json.is_array()) {
        tinygltf::Value::Array list;
        for (const auto& part : json) list.push_back(value_of(part));
        return tinygltf::Value(list);
    }
    tinygltf::Value::Object object;
    for (const auto& [key, part] : json.items()) object[key] = value_of(part);
    return tinygltf::Value(object);
}

namespace {

void put(tinygltf::Value::Object& into, const Extra& values) {
    for (const auto& [key, text] : values) into[key] = value_of(nlohmann::json::parse(text, nullptr, false));
}

/// Stands a node where a piece stands: the coordinates of glTF are ours about x by a quarter turn.
void stand(tinygltf::Node& node, const Placement& place, bool mirrored, double sized = 1) {
    const Vec3 at = y_up(place.at);
    node.translation = {at.x, at.y, at.z};
    const Rotation turn = rotation_of(place);
    if (turn != Rotation{0, 0, 0, 1}) node.rotation = {turn[0], turn[2], -turn[1], turn[3]};
    if (mirrored || sized != 1) node.scale = {mirrored ? -sized : sized, sized, sized};
}

/// A node for what a layer holds of one kind, made for the first of them.
class LayerNodes {
public:
    LayerNodes(GltfMaker& maker, const char* kind) : maker_(maker), kind_(kind) {}
    int of(const Layer& layer) {
        const auto [node, fresh] = nodes_.try_emplace(&layer, 0);
        if (fresh)
            node->second = maker_.add_node((layer.name.empty() ? layer.id.value : layer.name) + kind_, -1);
        return node->second;
    }

private:
    GltfMaker& maker_;
    std::string kind_;
    std::map<const Layer*, int> nodes_;
};

} // namespace

void add_pieces(GltfMaker& maker, const Level& level) {
    build::PieceMatterBuilder matter;
    std::map<ItemId, std::shared_ptr<const build::PieceMatter>> of_item;
    for (const auto& piece : matter.build(level)) of_item[piece->item] = piece;
    LayerNodes layers(maker, " pieces");
    for_each_item(level, [&](const Item& item, const Layer& layer) {
        const PlacedPiece* placed = item.piece();
        if (!placed || !placed->piece || !placed->piece->body) return;
        const Piece& piece = *placed->piece;
        const int node = maker.add_node(item.name.empty() ? item.id.value : item.name, layers.of(layer));
        maker.node(node).mesh = maker.model_mesh(piece.body.get(), piece.name, piece.body->model);
        stand(maker.node(node), placed->place, placed->mirrored, placed->sized);
        tinygltf::Value::Object extras{{"id", tinygltf::Value(item.id.value)},
                                       {"kit", tinygltf::Value(placed->kit_file)},
                                       {"piece", tinygltf::Value(placed->piece_id)}};
        put(extras, piece.values), put(extras, placed->values);
        maker.node(node).extras = tinygltf::Value(extras);
        const auto& cells = of_item.at(item.id)->cells;
        if (const int mesh = maker.bodies_mesh(cells.get(), piece.name + " collision", *cells); mesh >= 0) {
            const int collision = maker.add_node(maker.node(node).name + " collision", node);
            maker.node(collision).mesh = mesh;
            maker.node(collision).extras =
                tinygltf::Value(tinygltf::Value::Object{{"collision", tinygltf::Value(true)}});
        }
    });
}

void add_assemblies(GltfMaker& maker, const Level& level) {
    LayerNodes layers(maker, " assemblies");
    for_each_item(level, [&](const Item& item, const Layer& layer) {
        const PlacedAssembly* placed = item.assembly();
        if (!placed) return;
        const int node = maker.add_node(item.name.empty() ? item.id.value : item.name, layers.of(layer));
        stand(maker.node(node), placed->place, placed->mirrored);
        tinygltf::Value::Object extras{{"id", tinygltf::Value(item.id.value)},
                                       {"assembly", tinygltf::Value(placed->source)}};
        if (placed->assembly) put(extras, placed->assembly->values);
        put(extras, placed->values);
        maker.node(node).extras = tinygltf::Value(extras);
    });
}

} // namespace rubble::io
