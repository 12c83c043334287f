#include "level/item.h"

#include "level/brush_item.h"

namespace rubble {

std::string Item::title() const {
    if (!name.empty()) return name;
    return std::visit([](const auto& kind) { return kind_word(kind); }, body) + " " + id.value;
}

const char* type_key(const Item& item) {
    return std::visit([](const auto& kind) { return type_key(kind); }, item.body);
}

const char* id_prefix(const Item& item) {
    return std::visit([](const auto& kind) { return id_prefix(kind); }, item.body);
}

std::string search_words(const Item& item) {
    return std::visit([](const auto& kind) { return search_words(kind); }, item.body);
}

std::string problem_of(const Item& item, const Item* before) {
    return std::visit(
        [&]<class Kind>(const Kind& kind) {
            return problem_of(kind, before ? std::get_if<Kind>(&before->body) : nullptr);
        },
        item.body);
}

Box3 box_of(const Item& item) {
    return std::visit([](const auto& kind) { return box_of(kind); }, item.body);
}

std::optional<Placement> placement_of(const Item& item) {
    return std::visit([](const auto& kind) { return placement_of(kind); }, item.body);
}

std::optional<Vec3> place_of_part(const Item& item, const Vec3& part) {
    return std::visit([&](const auto& kind) { return place_of_part(kind, part); }, item.body);
}

std::optional<Vec3> part_at(const Item& item, const Vec3& place) {
    return std::visit([&](const auto& kind) { return part_at(kind, place); }, item.body);
}

Item transformed(const Item& item, const Transform& transform) {
    Item out{item.id, item.name, item.hidden, {}, item.extra};
    out.body =
        std::visit([&](const auto& kind) { return Item::Body(transformed(kind, transform)); }, item.body);
    return out;
}

const ItemList* members_of(const Item& item) {
    return std::visit([](const auto& kind) { return members_of(kind); }, item.body);
}

Item with_members(const Item& item, ItemList members) {
    Item out = item;
    std::visit([&](auto& kind) { kind = with_members(kind, std::move(members)); }, out.body);
    return out;
}

void for_each_reference(Item& item, const std::function<void(ItemId&)>& visit) {
    std::visit([&](auto& kind) { for_each_reference(kind, visit); }, item.body);
}

} // namespace rubble
