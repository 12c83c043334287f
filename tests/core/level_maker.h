#pragma once

#include <string>

#include "level/level.h"

namespace rubble::test {

/// Puts small levels together, one line an item.
class LevelMaker {
public:
    LevelMaker() {
        level_.name = "Test";
        level_.character = {"courier"};
        layer_.id = {"l1"};
        layer_.name = "Ground";
    }

    ItemId box(Vec3 at, Vec3 size, double turn_deg = 0, Effect effect = Effect::fill) {
        Brush brush;
        brush.effect = effect;
        brush.place.at = at;
        brush.place.turn_deg = turn_deg;
        brush.size = size;
        return add("b", brush);
    }
    ItemId ramp(Vec3 at, Vec3 size, double turn_deg = 0) {
        Brush brush;
        brush.shape = Shape::ramp;
        brush.place.at = at;
        brush.place.turn_deg = turn_deg;
        brush.size = size;
        return add("b", brush);
    }
    ItemId cut(Vec3 at, Vec3 size, double turn_deg = 0) { return box(at, size, turn_deg, Effect::cut); }
    ItemId brush(const Brush& brush) { return add("b", brush); }
    ItemId element(const std::string& kind, Vec3 at, double facing_deg = 0) {
        return add("e", Element{kind, at, facing_deg, {}});
    }
    ItemId element_with(Element element) { return add("e", element); }
    ItemId start(Vec3 at) { return element("start", at); }
    ItemId goal(Vec3 at) { return element("goal", at); }
    void claim(Claim::Kind kind, ItemId from, ItemId to) {
        const ClaimId id{"c" + std::to_string(level_.claims.size() + 1)};
        level_.claims.push_back({id, {}, kind, from, to, {}, {}, 0, {}});
    }
    void change(const std::string& key, double value) { level_.characters[level_.character][key] = value; }

    Level level() const {
        Level out = level_;
        out.layers = {layer_};
        return out;
    }

private:
    template <class Body> ItemId add(const std::string& prefix, const Body& body) {
        const ItemId id{prefix + std::to_string(layer_.items.size() + 1)};
        layer_.items.push_back(Item{id, {}, false, body, {}});
        return id;
    }
    Level level_;
    Layer layer_;
};

} // namespace rubble::test
