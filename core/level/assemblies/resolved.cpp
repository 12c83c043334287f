#include "level/assemblies/resolved.h"

#include <algorithm>
#include <map>
#include <set>

namespace rubble {

namespace {

void collect_sources(const ItemList& items, std::set<std::string>& out) {
    for (const ItemPtr& item : items) {
        if (const PlacedAssembly* placed = item->assembly())
            for_each_source(*placed, [&](const std::string& source) { out.insert(source); });
        else if (const ItemList* members = members_of(*item))
            collect_sources(*members, out);
    }
}

/// The assemblies that one is made of.
std::set<std::string> sources_of(const Assembly& assembly) {
    std::set<std::string> out;
    collect_sources(assembly.items, out);
    collect_sources(assembly.added, out);
    if (!assembly.derived_from.empty()) out.insert(assembly.derived_from);
    return out;
}

std::string called(const Project& project, const std::string& file) {
    const auto assembly = find_assembly(project, file);
    return assembly && !assembly->name.empty() ? assembly->name : file;
}

class Resolver {
public:
    explicit Resolver(Project& project) : project_(project) {}

    void run() {
        for (auto& assembly : project_.assemblies) resolve(assembly->file);
    }

private:
    std::shared_ptr<const Assembly>* find(const std::string& file) {
        for (auto& assembly : project_.assemblies)
            if (assembly->file == file) return &assembly;
        return nullptr;
    }

    void resolve(const std::string& file) {
        std::shared_ptr<const Assembly>* place = find(file);
        if (!place || done_.contains(file)) return;
        if (std::find(open_.begin(), open_.end(), file) != open_.end())
            return; // a ring, told by who began it
        open_.push_back(file);
        for (const std::string& source : sources_of(**place)) resolve(source);
        open_.pop_back();
        done_.insert(file);
        Assembly now = **place;
        now.flaw = flaw_of(now);
        now.resolved = now.flaw.empty() ? items_of(now) : ItemList();
        if (now.resolved == (*place)->resolved && now.flaw == (*place)->flaw) return;
        *place = std::make_shared<const Assembly>(std::move(now));
    }

    std::string flaw_of(const Assembly& assembly) {
        for (const std::string& source : sources_of(assembly)) {
            const auto chain = ring_through(project_, assembly.file, source);
            if (chain.empty()) continue;
            std::string text;
            for (const std::string& name : chain) text += (text.empty() ? "" : " > ") + name;
            return "It is within itself: " + text;
        }
        if (!assembly.derived_from.empty() && !find(assembly.derived_from))
            return "Its original " + assembly.derived_from + " could not be read";
        return {};
    }

    ItemList items_of(const Assembly& assembly) {
        if (assembly.derived_from.empty()) return drawn(assembly.items);
        const ItemList original = with_own((*find(assembly.derived_from))->resolved, assembly.own);
        std::vector<ItemPtr> out(original.begin(), original.end());
        for (const ItemPtr& item : drawn(assembly.added)) out.push_back(item);
        return ItemList(out);
    }

    /// Items with their pieces and nested assemblies as the project has them.
    ItemList drawn(const ItemList& items) {
        Layer layer;
        layer.items = items;
        Level level;
        level.layers.push_back(std::move(layer));
        return with_files_of(project_, std::move(level)).layers[0]->items;
    }

    Project& project_;
    std::set<std::string> done_;
    std::vector<std::string> open_;
};

} // namespace

std::vector<std::string> ring_through(const Project& project, const std::string& file,
                                      const std::string& other) {
    if (file == other) return {called(project, file), called(project, other)};
    std::map<std::string, std::string> from{{other, ""}};
    std::vector<std::string> open{other};
    for (size_t i = 0; i < open.size(); ++i) {
        const auto assembly = find_assembly(project, open[i]);
        if (!assembly) continue;
        for (const std::string& source : sources_of(*assembly)) {
            if (!from.try_emplace(source, open[i]).second) continue;
            if (source != file) {
                open.push_back(source);
                continue;
            }
            std::vector<std::string> chain{called(project, file)};
            for (std::string at = open[i]; !at.empty(); at = from.at(at))
                chain.push_back(called(project, at));
            chain.push_back(called(project, file));
            std::reverse(chain.begin(), chain.end());
            return chain;
        }
    }
    return {};
}

Project with_assemblies_resolved(Project project) {
    Resolver(project).run();
    return project;
}

} // namespace rubble
