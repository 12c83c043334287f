#include "io/assembly_file.h"

#include <algorithm>
#include <set>

#include "io/format.h"
#include "io/item_file.h"
#include "io/names.h"
#include "io/text_file.h"

namespace rubble::io {

namespace fs = std::filesystem;

namespace {

constexpr const char* k_ending = ".assembly.json";

Result<ItemList> read_items(Reader& in, const std::string& key) {
    ItemList out;
    std::set<std::string> ids;
    const Json& list = in.list(key);
    for (size_t i = 0; i < list.size(); ++i) {
        auto item = item_from_json(list[i], in.place(), in.path_of(key) + "/" + std::to_string(i));
        if (!item) return tl::unexpected(item.error());
        if (!ids.insert(item->id.value).second || item->id.value.find('/') != std::string::npos)
            in.fail(key, "ids without '/', each there once");
        out.push_back(std::move(*item));
    }
    return out;
}

OwnValues read_values(Reader& in) {
    OwnValues own;
    if (in.has("at")) own.at = point(in, "at", Vec3(0));
    if (in.has("turn_deg")) own.turn_deg = in.number("turn_deg", 0);
    if (in.has("size")) {
        own.size = point(in, "size", Vec3(1));
        for (int axis = 0; axis < 3; ++axis)
            if (!((*own.size)[axis] > 0 && (*own.size)[axis] <= 1000))
                in.fail("size", "three sizes up to 1000 m");
    }
    if (in.has("material")) own.material = in.text("material");
    for (const auto& [key, value] : in.object("values").items()) own.values[key] = value.dump();
    own.left_out = in.flag("left_out", false);
    own.extra = in.rest();
    return own;
}

} // namespace

OwnById read_own(Reader& in, const std::string& key) {
    OwnById out;
    for (const auto& [id, json] : in.object(key).items()) {
        Reader own(json, in.place(), in.path_of(key) + "/" + id);
        if (!own.ok()) {
            in.take_error(own);
            break;
        }
        out[id] = read_values(own);
        in.take_error(own);
    }
    return out;
}

Json own_json(const OwnById& own) {
    Json out = Json::object();
    for (const auto& [id, values] : own) {
        Json one = Json::object();
        if (values.at) one["at"] = to_json(*values.at);
        if (values.turn_deg) one["turn_deg"] = *values.turn_deg;
        if (values.size) one["size"] = to_json(*values.size);
        if (values.material) one["material"] = *values.material;
        if (!values.values.empty()) {
            Json list = Json::object();
            add_rest(list, values.values);
            one["values"] = list;
        }
        if (values.left_out) one["left_out"] = true;
        add_rest(one, values.extra);
        out[id] = one;
    }
    return out;
}

Result<Assembly> assembly_from_text(const std::string& text, const std::string& place) {
    const auto json = parse_json(text, place);
    if (!json) return tl::unexpected(json.error());
    Reader in(*json, place);
    if (!in.ok()) return tl::unexpected(in.error());
    if (const auto newer = newer_format(in, k_assembly_format, "assembly.format"))
        return tl::unexpected(*newer);
    Assembly assembly;
    assembly.name = in.text("name", "Assembly");
    assembly.derived_from = in.text("derived_from");
    auto items = read_items(in, "items"), added = read_items(in, "added");
    if (!items) return tl::unexpected(items.error());
    if (!added) return tl::unexpected(added.error());
    assembly.items = std::move(*items), assembly.added = std::move(*added);
    assembly.own = read_own(in, "own");
    for (const auto& [key, value] : in.object("values").items()) assembly.values[key] = value.dump();
    if (!in.ok()) return tl::unexpected(in.error());
    assembly.extra = in.rest();
    return assembly;
}

std::string text_of(const Assembly& assembly) {
    Json json;
    json["format"] = k_assembly_format;
    json["name"] = assembly.name;
    if (!assembly.derived_from.empty()) {
        json["derived_from"] = assembly.derived_from;
        json["own"] = own_json(assembly.own);
    }
    if (!assembly.values.empty()) {
        json["values"] = Json::object();
        add_rest(json["values"], assembly.values);
    }
    add_rest(json, assembly.extra);
    json[assembly.derived_from.empty() ? "items" : "added"] =
        items_json(assembly.derived_from.empty() ? assembly.items : assembly.added);
    return to_text(json);
}

Result<Assembly> load_assembly(const fs::path& folder, const std::string& file) {
    const auto text = read_file(folder / file);
    if (!text) return tl::unexpected(text.error());
    auto assembly = assembly_from_text(*text, (folder / file).string());
    if (assembly) assembly->file = file;
    return assembly;
}

Result<void> save_assembly(const Assembly& assembly, const fs::path& folder) {
    std::error_code error;
    fs::create_directories((folder / assembly.file).parent_path(), error);
    return write_file(folder / assembly.file, text_of(assembly));
}

std::vector<std::string> assembly_files(const fs::path& folder) {
    std::vector<std::string> out;
    std::error_code error;
    for (const auto& entry : fs::directory_iterator(folder / "assemblies", error))
        if (entry.path().string().ends_with(k_ending))
            out.push_back("assemblies/" + entry.path().filename().string());
    std::sort(out.begin(), out.end());
    return out;
}

} // namespace rubble::io
