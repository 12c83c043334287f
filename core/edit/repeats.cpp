#include "edit/repeats.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <map>
#include <set>
#include <unordered_map>

#include "base/angle.h"
#include "edit/item_lists.h"
#include "edit/massing.h"
#include "edit/openings.h"

namespace rubble::edit {

namespace {

/// Leaves of groups in order, so that those of a copy stand beside those of its original.
void leaves_of(const Item& item, std::vector<const Item*>& out) {
    if (const ItemList* members = members_of(item))
        for (const ItemPtr& member : *members) leaves_of(*member, out);
    else
        out.push_back(&item);
}

void link(Level& level, const Item& a, const Item& b, const std::optional<MirrorPlane>& plane) {
    std::vector<const Item*> from, to;
    leaves_of(a, from), leaves_of(b, to);
    for (size_t i = 0; i < from.size() && i < to.size(); ++i) {
        ItemLink made{from[i]->id, to[i]->id, -1, 0};
        if (plane) made.mirror_axis = plane->axis, made.mirror_at_m = plane->at_m;
        level.links.push_back(made);
    }
}

/// `duplicated` lists copies in the order of storing; so must what they are copies of be listed.
std::vector<ItemId> in_order(const Level& level, std::span<const ItemId> ids) {
    std::vector<ItemId> all(ids.begin(), ids.end()), out;
    for (const ItemId& id : openings_of(level, ids)) all.push_back(id);
    for_each_item(level, [&, chosen = Chosen(all)](const Item& item, const Layer&) {
        if (chosen.has(item)) out.push_back(item.id);
    });
    return out;
}

/// Items by their ids, in the order of these.
std::vector<Item> items_of(const Level& level, const std::vector<ItemId>& ids) {
    std::unordered_map<ItemId, const Item*> found;
    for_each_item(level, [&, chosen = Chosen(ids)](const Item& item, const Layer&) {
        if (chosen.has(item)) found[item.id] = &item;
    });
    std::vector<Item> out;
    for (const ItemId& id : ids) out.push_back(*found.at(id));
    return out;
}

void link_all(Level& level, const std::vector<Item>& originals, const std::vector<Item>& copies,
              const std::optional<MirrorPlane>& plane) {
    for (size_t i = 0; i < copies.size() && i < originals.size(); ++i)
        link(level, originals[i], copies[i], plane);
}

/// What `follower` becomes when what it is linked to is as `leader`.
Item following(const Item& leader, const Item& follower, const ItemLink& link) {
    Item out = follower;
    if (link.mirror_axis >= 0) {
        out.body = mirrored(leader, {link.mirror_axis, link.mirror_at_m}).body;
        if (Brush* brush = std::get_if<Brush>(&out.body); brush && follower.brush())
            brush->host = follower.brush()->host;
        return out;
    }
    if (!leader.brush() || !follower.brush()) return out;
    Brush brush = *leader.brush();
    brush.place = follower.brush()->place, brush.host = follower.brush()->host;
    out.body = std::move(brush);
    return out;
}

/// Whether two items differ in what a link carries over.
bool differs(const Item& a, const Item& b, const ItemLink& link) {
    if (link.mirror_axis >= 0 || !a.brush() || !b.brush()) return !(a.body == b.body);
    Brush one = *a.brush(), other = *b.brush();
    one.place = other.place, one.host = other.host;
    return !(one == other);
}

/// Links without those of some items; what hung together through one of them still does. Copies hang
/// together by their shapes, and so do two mirror images of one; a copy and a mirror image of it part.
std::vector<ItemLink> links_without(std::vector<ItemLink> links, const std::set<ItemId>& gone) {
    for (const ItemId& id : gone) {
        std::vector<ItemId> copies, images;
        for (const ItemLink& one : links)
            if (one.a == id || one.b == id)
                (one.mirror_axis < 0 ? copies : images).push_back(one.a == id ? one.b : one.a);
        std::erase_if(links, [&](const ItemLink& one) { return one.a == id || one.b == id; });
        for (const auto& group : {copies, images})
            for (size_t i = 1; i < group.size(); ++i) links.push_back({group[0], group[i], -1, 0});
    }
    return links;
}

} // namespace

Copies repeated(const Level& level, std::span<const ItemId> ids, int times, const Vec3& step,
                double turn_deg) {
    Box3 box;
    for (const ItemId& id : ids)
        if (const Item* item = find_item(level, id)) box.add(box_of(*item));
    Copies out{level, {}};
    Vec3 by(0);
    for (int i = 1; i <= times && !box.empty(); ++i) {
        const auto [c, s] = cos_sin(turn_deg * (i - 1));
        by += Vec3(step.x * c - step.y * s, step.x * s + step.y * c, step.z);
        Copies next = duplicated(out.level, ids, by);
        if (turn_deg != 0) next.level = turned(next.level, next.ids, box.middle() + by, turn_deg * i);
        out.level = std::move(next.level);
        out.ids.insert(out.ids.end(), next.ids.begin(), next.ids.end());
    }
    return out;
}

Item mirrored(const Item& item, const MirrorPlane& plane) {
    return transformed(item, Transform::mirroring(plane));
}

Copies mirrored(const Level& level, std::span<const ItemId> ids, const MirrorPlane& plane, bool linked) {
    Copies out = duplicated(level, ids, Vec3(0));
    std::vector<Item> images = items_of(out.level, out.ids);
    for (Item& image : images) image = mirrored(image, plane);
    out.level = with_all_changed(out.level, images);
    if (linked) link_all(out.level, items_of(level, in_order(level, ids)), images, plane);
    return out;
}

Copies linked_copies(const Level& level, std::span<const ItemId> ids, const Vec3& by) {
    Copies out = duplicated(level, ids, by);
    link_all(out.level, items_of(level, in_order(level, ids)), items_of(out.level, out.ids), {});
    return out;
}

std::optional<Level> linked(const Level& level, std::span<const ItemId> ids) {
    std::vector<std::vector<const Item*>> brushes; // of each, in order
    for (const ItemId& id : ids) {
        const Item* item = find_item(level, id);
        if (!item) return {};
        leaves_of(*item, brushes.emplace_back());
        std::erase_if(brushes.back(), [](const Item* leaf) { return !leaf->brush(); });
        if (brushes.back().empty() || brushes.back().size() != brushes[0].size()) return {};
    }
    if (brushes.size() < 2) return {};
    Level out = level;
    std::vector<Item> changed;
    for (size_t i = 1; i < brushes.size(); ++i)
        for (size_t k = 0; k < brushes[0].size(); ++k) {
            const Item &leader = *brushes[0][k], &follower = *brushes[i][k];
            const std::vector<ItemId> already = linked_to(out, leader.id);
            if (std::find(already.begin(), already.end(), follower.id) != already.end()) continue;
            const ItemLink link{leader.id, follower.id, -1, 0};
            changed.push_back(following(leader, follower, link));
            out.links.push_back(link);
        }
    if (changed.empty()) return {};
    return with_all_changed(out, changed);
}

Level with_links_followed(const Level& before, Level after) {
    if (after.links.empty()) return after;
    std::map<ItemId, const Item*> was, now;
    for (const ItemLink& one : after.links) was[one.a] = was[one.b] = now[one.a] = now[one.b] = nullptr;
    for (auto& [level, items] :
         {std::pair(&before, &was), std::pair<const Level*, decltype(&now)>(&after, &now)})
        for_each_item(*level, [&, items = items](const Item& item, const Layer&) {
            if (const auto found = items->find(item.id); found != items->end()) found->second = &item;
        });
    // From what the edit changed outward, each link once.
    std::map<ItemId, Item> changed;
    std::set<ItemId> done;
    for (const auto& [id, item] : now)
        if (item && was[id] && !(item->body == was[id]->body)) done.insert(id);
    std::vector<ItemId> front(done.begin(), done.end());
    while (!front.empty()) {
        std::vector<ItemId> next;
        for (const ItemId& id : front)
            for (const ItemLink& one : after.links) {
                if (one.a != id && one.b != id) continue;
                const ItemId& other = one.a == id ? one.b : one.a;
                if (!now[other] || done.contains(other)) continue;
                const Item& leader = changed.contains(id) ? changed.at(id) : *now[id];
                if (was[id] && !differs(leader, *was[id], one)) continue; // only its place changed
                changed[other] = following(leader, *now[other], one);
                done.insert(other), next.push_back(other);
            }
        front = std::move(next);
    }
    std::vector<Item> all;
    for (auto& [id, item] : changed) all.push_back(std::move(item));
    if (!all.empty()) after = with_all_changed(after, all);
    std::set<ItemId> gone;
    for (const auto& [id, item] : now)
        if (!item) gone.insert(id);
    if (!gone.empty()) after.links = links_without(std::move(after.links), gone);
    return after;
}

Level unlinked(const Level& level, std::span<const ItemId> ids) {
    Level out = level;
    std::set<ItemId> own;
    for (const ItemId& id : ids)
        if (const Item* item = find_item(level, id)) {
            std::vector<const Item*> leaves;
            leaves_of(*item, leaves);
            for (const Item* leaf : leaves) own.insert(leaf->id);
        }
    out.links = links_without(std::move(out.links), own);
    return out;
}

std::vector<ItemId> linked_to(const Level& level, const ItemId& id) {
    std::set<ItemId> found{id};
    for (size_t before = 0; before != found.size();) {
        before = found.size();
        for (const ItemLink& one : level.links) {
            if (found.contains(one.a)) found.insert(one.b);
            if (found.contains(one.b)) found.insert(one.a);
        }
    }
    found.erase(id);
    return {found.begin(), found.end()};
}

} // namespace rubble::edit
