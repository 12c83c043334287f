#include "io/level_merge.h"

#include <algorithm>
#include <list>
#include <map>
#include <set>
#include <unordered_map>
#include <unordered_set>

#include "io/level_file.h"

namespace rubble::io {

namespace {

/// Keys of items that are told apart; all others make up the shape, and belong together.
const std::set<std::string> k_free{"name",   "hidden",     "effect",        "material", "looks",
                                   "values", "facing_deg", "collision",     "sized",    "kind",
                                   "type",   "opening_of", "side_materials"};
const std::set<std::string> k_place{"at", "turn_deg", "turn_up_deg", "rotation", "mirrored"};

/// Something with an id, without what it holds, and what holds it.
struct Node {
    Json own;
    std::string holder;
};

/// A level as things that are told by their ids.
struct Tree {
    std::map<std::string, Node> nodes;
    std::map<std::string, std::vector<std::string>> held; ///< by what holds them, in order
    Json rest = Json::object();                           ///< the level without layers
};

const char* const k_layers = "layers";
/// Layers and items may have one id.
std::string layer_key(const std::string& id) { return "layer " + id; }
std::string item_key(const std::string& id) { return "item " + id; }
std::string id_of_key(const std::string& key) { return key.substr(key.find(' ') + 1); }
bool is_layer(const std::string& key) { return key.starts_with("layer "); }

std::string id_of(const Json& thing) {
    const auto id = thing.is_object() ? thing.find("id") : thing.end();
    return thing.is_object() && id != thing.end() && id->is_string() ? id->get<std::string>() : std::string();
}

void add_items(Tree& tree, const Json& thing, const std::string& holder) {
    const auto items = thing.find("items");
    if (items == thing.end() || !items->is_array()) return;
    for (const Json& item : *items) {
        const std::string key = item_key(id_of(item));
        Json own = item;
        own.erase("items");
        tree.nodes[key] = {std::move(own), holder};
        tree.held[holder].push_back(key);
        add_items(tree, item, key);
    }
}

Tree tree_of(const Json& level) {
    Tree tree;
    for (const auto& [key, value] : level.items())
        if (key != k_layers) tree.rest[key] = value;
    const auto layers = level.find(k_layers);
    if (layers == level.end() || !layers->is_array()) return tree;
    for (const Json& layer : *layers) {
        const std::string key = layer_key(id_of(layer));
        Json own = layer;
        own.erase("items");
        tree.nodes[key] = {std::move(own), {}};
        tree.held[{}].push_back(key);
        add_items(tree, layer, key);
    }
    return tree;
}

/// An item's keys, those that belong together under one.
Json gathered(const Json& own) {
    Json out = Json::object(), place = Json::object(), shape = Json::object();
    for (const auto& [key, value] : own.items())
        (key == "id" || k_free.contains(key) ? out : k_place.contains(key) ? place : shape)[key] = value;
    out["place"] = std::move(place), out["shape"] = std::move(shape);
    return out;
}

/// The same as an item again, its keys in the order of one that has most of them.
Json spread(const Json& gathered, const Json& order) {
    Json flat = Json::object(), out = Json::object();
    for (const auto& [key, value] : gathered.items())
        if (key == "place" || key == "shape")
            for (const auto& [inner, v] : value.items()) flat[inner] = v;
        else
            flat[key] = value;
    for (const auto& [key, value] : order.items())
        if (flat.contains(key)) out[key] = flat[key];
    for (const auto& [key, value] : flat.items())
        if (!out.contains(key)) out[key] = value;
    return out;
}

const Json* member(const Json* of, const std::string& key) {
    if (!of || !of->is_object()) return nullptr;
    const auto found = of->find(key);
    return found == of->end() ? nullptr : &*found;
}

bool same(const Json* a, const Json* b) { return (!a && !b) || (a && b && *a == *b); }

bool all_objects_with_ids(const Json& list) {
    return list.is_array() &&
           std::all_of(list.begin(), list.end(), [](const Json& one) { return !id_of(one).empty(); });
}
bool is_set(const Json& list) {
    return list.is_array() && std::all_of(list.begin(), list.end(),
                                          [](const Json& one) { return one.is_object() || one.is_string(); });
}

/// One order of those that are left: as the first, with what only the second has after what it follows there.
std::vector<std::string> in_one_order(const std::vector<std::string>& first,
                                      const std::vector<std::string>& second,
                                      const std::set<std::string>& kept) {
    std::list<std::string> order;
    std::unordered_map<std::string, std::list<std::string>::iterator> places;
    const auto put = [&](std::list<std::string>::iterator before, const std::string& key) {
        places[key] = order.insert(before, key);
    };
    for (const std::string& key : first)
        if (kept.contains(key)) put(order.end(), key);
    auto after = order.begin();
    for (const std::string& key : second) {
        if (!kept.contains(key)) continue;
        if (!places.contains(key)) put(after, key);
        after = std::next(places[key]);
    }
    for (const std::string& key : kept)
        if (!places.contains(key)) put(order.end(), key);
    return {order.begin(), order.end()};
}

/// Whoever changed the order is followed; where both did, mine.
std::vector<std::string> merged_order(const std::vector<std::string>& base,
                                      const std::vector<std::string>& mine,
                                      const std::vector<std::string>& theirs,
                                      const std::set<std::string>& kept) {
    const auto common = [](const std::vector<std::string>& of, const std::vector<std::string>& with) {
        const std::unordered_set<std::string> known(with.begin(), with.end());
        std::vector<std::string> out;
        std::copy_if(of.begin(), of.end(), std::back_inserter(out),
                     [&](const std::string& key) { return known.contains(key); });
        return out;
    };
    const bool mine_kept_it = common(mine, base) == common(base, mine);
    return mine_kept_it ? in_one_order(theirs, mine, kept) : in_one_order(mine, theirs, kept);
}

class Merger {
public:
    Merger(const Json& base, const Json& mine, const Json& theirs)
        : base_(tree_of(base)),
          mine_(tree_of(mine)),
          theirs_(tree_of(theirs)) {}

    MergedLevel run() {
        Json rest = values(&base_.rest, &mine_.rest, &theirs_.rest, {});
        note({}, &base_.rest, &mine_.rest, &theirs_.rest);
        things();
        hold_what_is_left();
        MergedLevel out;
        // The level's own keys in the order of mine, layers where they stand there.
        out.level = Json::object();
        bool laid = false;
        const auto lay = [&] {
            if (!std::exchange(laid, true)) out.level[k_layers] = laid_under({});
        };
        for (const auto& [key, value] : rest.items()) {
            if (key == "claims") lay();
            out.level[key] = value;
        }
        lay();
        out.conflicts = std::move(conflicts_);
        return out;
    }

private:
    /// Every thing that either side still has, and that the other did not remove in peace.
    void things() {
        std::vector<std::string> keys;
        std::set<std::string> known;
        for (const Tree* tree : {&mine_, &theirs_, &base_})
            for (const auto& [key, node] : tree->nodes)
                if (known.insert(key).second) keys.push_back(key);
        for (const std::string& key : keys) {
            const Node *base = node(base_, key), *mine = node(mine_, key), *theirs = node(theirs_, key);
            if (!mine && !theirs) continue;
            if (base && (!mine || !theirs)) {
                const Node& left = mine ? *mine : *theirs;
                const bool untouched = left.own == base->own && left.holder == base->holder;
                if (untouched) continue; // gone in peace
                conflicts_.push_back({id_of_key(key),
                                      {},
                                      base->own,
                                      mine ? mine->own : Json(),
                                      theirs ? theirs->own : Json()});
                if (!mine) continue; // as mine has it: gone
                out_.nodes[key] = *mine;
                continue;
            }
            Node merged;
            if (!mine || !theirs) {
                merged = mine ? *mine : *theirs;
            } else {
                merged.own = thing(key, base ? &base->own : nullptr, mine->own, theirs->own);
                const std::string was = base ? base->holder : std::string("?");
                merged.holder = mine->holder == was ? theirs->holder : mine->holder;
                if (mine->holder != theirs->holder && mine->holder != was && theirs->holder != was)
                    conflicts_.push_back(
                        {id_of_key(key), {"layer"}, base ? base->own : Json(), mine->own, theirs->own});
            }
            out_.nodes[key] = std::move(merged);
        }
    }

    Json thing(const std::string& key, const Json* base, const Json& mine, const Json& theirs) {
        if (is_layer(key)) {
            Json out = values(base, &mine, &theirs, {});
            note(id_of_key(key), base, &mine, &theirs);
            return out;
        }
        const Json was = base ? gathered(*base) : Json(), ours = gathered(mine), others = gathered(theirs);
        const Json out = values(base ? &was : nullptr, &ours, &others, {});
        note(id_of_key(key), base, &mine, &theirs);
        return spread(out, mine);
    }

    /// What was found to differ since the last note belongs to one thing.
    void note(const std::string& id, const Json* base, const Json* mine, const Json* theirs) {
        if (found_.empty()) return;
        conflicts_.push_back({id, std::exchange(found_, {}), base ? *base : Json(), *mine, *theirs});
    }

    /// Objects key by key, down to what cannot be divided.
    Json values(const Json* base, const Json* mine, const Json* theirs, const std::string& path) {
        Json out = Json::object();
        std::vector<std::string> keys;
        for (const Json* side : {mine, theirs})
            for (const auto& [key, value] : side->items())
                if (std::find(keys.begin(), keys.end(), key) == keys.end()) keys.push_back(key);
        for (const std::string& key : keys) {
            const Json *b = member(base, key), *m = member(mine, key), *t = member(theirs, key);
            if (same(m, t) || same(t, b)) {
                if (m) out[key] = *m;
            } else if (same(m, b)) {
                if (t) out[key] = *t;
            } else {
                put_both(out, key, b, m, t, path.empty() ? key : path + '/' + key);
            }
        }
        return out;
    }

    /// Both changed it.
    void put_both(Json& out, const std::string& key, const Json* b, const Json* m, const Json* t,
                  const std::string& path) {
        if (m && t && m->is_object() && t->is_object() && key != "shape" && key != "place") {
            out[key] = values(b, m, t, path);
            return;
        }
        if (m && t && key == "rows" && m->is_array() && t->is_array() && b && b->is_array()) {
            out[key] = rows(*b, *m, *t);
            return;
        }
        const Json none = Json::array();
        const Json &was = b ? *b : none, &ours = m ? *m : none, &others = t ? *t : none;
        if (all_objects_with_ids(ours) && all_objects_with_ids(others) && all_objects_with_ids(was)) {
            out[key] = by_ids(was, ours, others);
            return;
        }
        if (is_set(ours) && is_set(others) && is_set(was)) {
            out[key] = as_sets(was, ours, others);
            return;
        }
        found_.push_back(path);
        if (m) out[key] = *m;
    }

    /// Lists of claims and the like.
    Json by_ids(const Json& base, const Json& mine, const Json& theirs) {
        const auto keyed = [](const Json& list) {
            std::map<std::string, const Json*> out;
            for (const Json& one : list) out[id_of(one)] = &one;
            return out;
        };
        const auto order = [](const Json& list) {
            std::vector<std::string> out;
            for (const Json& one : list) out.push_back(id_of(one));
            return out;
        };
        const auto b = keyed(base), m = keyed(mine), t = keyed(theirs);
        const auto at = [](const auto& map, const std::string& id) {
            const auto found = map.find(id);
            return found == map.end() ? nullptr : found->second;
        };
        std::map<std::string, Json> made;
        std::set<std::string> kept;
        std::vector<std::string> before = std::exchange(found_, {});
        for (const auto& side : {m, t})
            for (const auto& [id, one] : side) {
                const Json *was = at(b, id), *ours = at(m, id), *others = at(t, id);
                if (kept.contains(id)) continue;
                if (ours && others) {
                    made[id] = values(was, ours, others, {});
                    note(id, was, ours, others);
                } else if (!was) {
                    made[id] = *one;
                } else if (*one == *was) {
                    continue;
                } else {
                    conflicts_.push_back({id, {}, *was, ours ? *ours : Json(), others ? *others : Json()});
                    if (!ours) continue;
                    made[id] = *ours;
                }
                kept.insert(id);
            }
        found_ = std::move(before);
        Json out = Json::array();
        for (const std::string& id : merged_order(order(base), order(mine), order(theirs), kept))
            out.push_back(made[id]);
        return out;
    }

    /// Lists of things without ids: what either side put in is in, what either took out is out.
    static Json as_sets(const Json& base, const Json& mine, const Json& theirs) {
        const auto has = [](const Json& list, const Json& one) {
            return std::find(list.begin(), list.end(), one) != list.end();
        };
        Json out = Json::array();
        for (const Json& one : mine)
            if (has(theirs, one) || !has(base, one)) out.push_back(one);
        for (const Json& one : theirs)
            if (!has(base, one) && !has(mine, one)) out.push_back(one);
        return out;
    }

    /// Rows of tiles, cell by cell; where both painted one, mine.
    Json rows(const Json& base, const Json& mine, const Json& theirs) {
        const auto cells_of = [](const Json& list, size_t row) {
            std::vector<std::string> out;
            if (row >= list.size() || !list[row].is_string()) return out;
            const std::string& text = list[row].get_ref<const std::string&>();
            size_t from = 0;
            while (from <= text.size() && !text.empty()) {
                const size_t comma = std::min(text.find(',', from), text.size());
                out.push_back(text.substr(from, comma - from));
                from = comma + 1;
            }
            return out;
        };
        Json out = Json::array();
        bool twice = false;
        for (size_t row = 0; row < std::max(mine.size(), theirs.size()); ++row) {
            const auto b = cells_of(base, row), m = cells_of(mine, row), t = cells_of(theirs, row);
            std::string text;
            const auto cell = [](const std::vector<std::string>& cells, size_t i) {
                return i < cells.size() ? cells[i] : std::string("0");
            };
            for (size_t i = 0; i < std::max(m.size(), t.size()); ++i) {
                const std::string was = cell(b, i), ours = cell(m, i), others = cell(t, i);
                twice |= ours != was && others != was && ours != others;
                if (i > 0) text += ',';
                text += ours == was ? others : ours;
            }
            out.push_back(std::move(text));
        }
        if (twice) found_.push_back("rows");
        return out;
    }

    /// Nothing is held by what is gone, or by itself: what a side put into a group or layer that the other
    /// removed brings that back, as that side has it.
    void hold_what_is_left() {
        std::vector<std::string> waiting;
        for (const auto& [key, node] : out_.nodes) waiting.push_back(key);
        while (!waiting.empty()) {
            const std::string key = std::move(waiting.back());
            waiting.pop_back();
            const std::string holder = out_.nodes.at(key).holder;
            if (holder.empty() || out_.nodes.contains(holder)) continue;
            for (const Tree* tree : {&mine_, &theirs_, &base_})
                if (const Node* found = node(*tree, holder)) {
                    out_.nodes[holder] = *found;
                    conflicts_.push_back({id_of_key(holder),
                                          {},
                                          json_of(base_, holder),
                                          json_of(mine_, holder),
                                          json_of(theirs_, holder)});
                    waiting.push_back(holder);
                    break;
                }
        }
        for (auto& [key, one] : out_.nodes) {
            std::set<std::string> above{key};
            for (std::string at = one.holder; !at.empty(); at = out_.nodes.at(at).holder)
                if (!above.insert(at).second) { // each side put one into the other: as mine has them
                    for (const std::string& turn : above)
                        if (const Node* found = node(mine_, turn)) out_.nodes[turn].holder = found->holder;
                    break;
                }
        }
        std::map<std::string, std::set<std::string>> kept;
        for (const auto& [key, one] : out_.nodes) kept[one.holder].insert(key);
        for (const auto& [holder, keys] : kept) {
            const auto order = [&](const Tree& tree) {
                const auto found = tree.held.find(holder);
                return found == tree.held.end() ? std::vector<std::string>{} : found->second;
            };
            out_.held[holder] = merged_order(order(base_), order(mine_), order(theirs_), keys);
        }
    }

    Json laid_under(const std::string& holder) const {
        Json out = Json::array();
        const auto held = out_.held.find(holder);
        if (held == out_.held.end()) return out;
        for (const std::string& key : held->second) {
            Json one = out_.nodes.at(key).own;
            const bool holds = out_.held.contains(key);
            const bool holder_kind =
                (is_layer(key) && !one.contains("rows")) || one.value("type", "") == "group";
            if (holds || holder_kind) one["items"] = laid_under(key);
            out.push_back(std::move(one));
        }
        return out;
    }

    static const Node* node(const Tree& tree, const std::string& key) {
        const auto found = tree.nodes.find(key);
        return found == tree.nodes.end() ? nullptr : &found->second;
    }
    static Json json_of(const Tree& tree, const std::string& key) {
        const Node* found = node(tree, key);
        return found ? found->own : Json();
    }

    const Tree base_, mine_, theirs_;
    Tree out_;
    std::vector<std::string> found_;
    std::vector<MergeConflict> conflicts_;
};

} // namespace

MergedLevel merged_levels(const Json& base, const Json& mine, const Json& theirs) {
    return Merger(base, mine, theirs).run();
}

std::vector<MergeConflict> conflicts_of(const Level& level) {
    std::vector<MergeConflict> out;
    const auto kept = level.extra.find("conflicts");
    if (kept == level.extra.end()) return out;
    const Json list = Json::parse(kept->second, nullptr, false);
    if (!list.is_array()) return out;
    for (const Json& one : list) {
        if (!one.is_object()) continue;
        MergeConflict conflict;
        conflict.id = id_of(one);
        if (const Json* keys = member(&one, "keys"); keys && keys->is_array())
            for (const Json& key : *keys)
                if (key.is_string()) conflict.keys.push_back(key.get<std::string>());
        const auto take = [&](const char* side) {
            const Json* found = member(&one, side);
            return found ? *found : Json();
        };
        conflict.base = take("base"), conflict.mine = take("mine"), conflict.theirs = take("theirs");
        out.push_back(std::move(conflict));
    }
    return out;
}

namespace {

/// A thing of a level by its id, in a list at any depth: replaced, or taken out where it is to be null.
bool put(Json& list, const std::string& id, const Json& as) {
    if (!list.is_array()) return false;
    for (size_t i = 0; i < list.size(); ++i) {
        if (id_of(list[i]) == id) {
            if (as.is_null()) {
                list.erase(i);
                return true;
            }
            Json now = as;
            if (list[i].contains("items")) now["items"] = list[i]["items"];
            list[i] = std::move(now);
            return true;
        }
        if (list[i].is_object() && list[i].contains("items") && put(list[i]["items"], id, as)) return true;
    }
    return false;
}

} // namespace

Result<Level> with_conflict_decided(const Level& level, size_t which, bool theirs) {
    std::vector<MergeConflict> conflicts = conflicts_of(level);
    if (which >= conflicts.size()) return level;
    const MergeConflict one = conflicts[which];
    conflicts.erase(conflicts.begin() + std::ptrdiff_t(which));
    auto json = parse_json(text_of(level), level.name);
    if (!json) return tl::unexpected(json.error());
    if (theirs && one.id.empty()) {
        for (const auto& [key, value] : one.theirs.items())
            if (key != k_layers && key != "conflicts") (*json)[key] = value;
    } else if (theirs) {
        bool done = false;
        for (auto& [key, value] : json->items())
            if (key != "conflicts") done = done || put(value, one.id, one.theirs);
        if (!done && !one.theirs.is_null() && json->contains(k_layers) && !(*json)[k_layers].empty()) {
            // Mine had removed it: at the end of the first layer of items.
            for (Json& layer : (*json)[k_layers])
                if (!done && layer.contains("items")) layer["items"].push_back(one.theirs), done = true;
        }
    }
    json->erase("conflicts");
    if (!conflicts.empty()) (*json)["conflicts"] = to_json(conflicts);
    return level_from_text(to_text(*json), level.name);
}

Json to_json(const std::vector<MergeConflict>& conflicts) {
    Json out = Json::array();
    for (const MergeConflict& one : conflicts) {
        Json json = Json::object();
        if (!one.id.empty()) json["id"] = one.id;
        if (!one.keys.empty()) json["keys"] = one.keys;
        json["base"] = one.base, json["mine"] = one.mine, json["theirs"] = one.theirs;
        out.push_back(std::move(json));
    }
    return out;
}

} // namespace rubble::io
