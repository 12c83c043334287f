#pragma once

#include <map>
#include <string>

#include "base/result.h"
#include "level/item.h"
#include "level/level.h"

namespace rubble::demo {

/// Boxes put together and taken away, in order.
class Modelling {
public:
    /// What boxes are made of where nothing else is said.
    explicit Modelling(const char* material) : material_(material) {}
    Modelling& fill(const Vec3& low, const Vec3& high, const char* material = nullptr) {
        return add(box(low, high, Effect::fill, material ? material : material_));
    }
    Modelling& cut(const Vec3& low, const Vec3& high) { return add(box(low, high, Effect::cut, "")); }
    Modelling& add(Brush brush) {
        items_.push_back(Item{{"b" + std::to_string(items_.size())}, {}, false, std::move(brush), {}});
        return *this;
    }
    const ItemList& items() const { return items_; }

private:
    static Brush box(const Vec3& low, const Vec3& high, Effect effect, const char* material) {
        Brush brush;
        brush.effect = effect, brush.material = {material};
        brush.place.at = {(low.x + high.x) / 2, (low.y + high.y) / 2, low.z};
        brush.size = high - low;
        return brush;
    }
    const char* material_;
    ItemList items_;
};

/// A kit whose pieces are modelled here, with the bytes of their files by the names of these.
struct ModelledKit {
    Kit kit;
    std::map<std::string, std::string> files;
};
/// The kit with one piece more, made of a model in the materials of a project.
Result<void> add_piece(ModelledKit& to, const Project& looks, Piece piece, const Modelling& model);

} // namespace rubble::demo
