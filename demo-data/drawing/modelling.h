#pragma once

#include <string>

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

} // namespace rubble::demo
