#include "parcel/tables.h"

#include <cstdio>
#include <filesystem>
#include <map>

#include "level/element_values.h"
#include "level/order.h"

namespace rubble::parcel {

namespace {

/// One row, each field quoted where it must be.
class Row {
public:
    Row& text(const std::string& value) {
        const bool plain = value.find_first_of(",\"\r\n") == std::string::npos;
        std::string field;
        for (const char c : value) field += c == '"' ? std::string("\"\"") : std::string(1, c);
        return put(plain ? field : '"' + field + '"');
    }
    Row& number(double value) { return put(io::Json(io::tidy(value)).dump()); }
    Row& place(const Vec3& at) { return number(at.x).number(at.y).number(at.z); }
    std::string line() const { return text_ + "\r\n"; }

private:
    Row& put(const std::string& field) {
        if (!std::exchange(first_, false)) text_ += ',';
        text_ += field;
        return *this;
    }
    std::string text_;
    bool first_ = true;
};

io::Json values_of(const Element& element) {
    io::Json values = io::Json::object();
    io::add_rest(values, element.values);
    return values;
}

} // namespace

std::string elements_csv(const Level& level) {
    std::string out = "id,name,kind,acts_as,x_m,y_m,z_m,facing_deg,values\r\n";
    for (const Item* item : elements_of(level)) {
        const Element& element = *item->element();
        const io::Json values = values_of(element);
        out += Row()
                   .text(item->id.value)
                   .text(item->name)
                   .text(element.kind)
                   .text(acts_as(element))
                   .place(element.at)
                   .number(element.facing_deg)
                   .text(values.empty() ? std::string() : values.dump())
                   .line();
    }
    return out;
}

io::Json elements_json(const Level& level) {
    io::Json out = io::Json::array();
    for (const Item* item : elements_of(level)) {
        const Element& element = *item->element();
        io::Json one = io::Json::object();
        one["id"] = item->id.value, one["name"] = item->name, one["kind"] = element.kind;
        one["acts_as"] = acts_as(element);
        one["at"] = io::to_json(element.at), one["facing_deg"] = element.facing_deg;
        one["values"] = values_of(element);
        out.push_back(std::move(one));
    }
    return out;
}

std::string names_csv(const Level& level) {
    std::string out = "id,name,type,layer,low_x_m,low_y_m,low_z_m,high_x_m,high_y_m,high_z_m\r\n";
    for_each_item(level, [&](const Item& item, const Layer& layer) {
        const Box3 box = box_of(item);
        Row row;
        row.text(item.id.value).text(item.name).text(type_key(item)).text(layer.name);
        if (box.empty())
            row.text({}).text({}).text({}).text({}).text({}).text({});
        else
            row.place(box.low).place(box.high);
        out += row.line();
    });
    return out;
}

std::string materials_csv(const Project& project, const std::set<MaterialId>& used) {
    std::string out =
        "id,name,wide_m,high_m,roughness,metal,color,normal,roughness_picture,metal_picture,glow\r\n";
    for (const Material& material : project.materials) {
        if (!used.contains(material.id)) continue;
        Row row;
        row.text(material.id.value).text(material.name).number(material.metres.x).number(material.metres.y);
        row.number(material.roughness).number(material.metal);
        for (const PictureRole role : {PictureRole::color, PictureRole::normal, PictureRole::roughness,
                                       PictureRole::metal, PictureRole::glow}) {
            const auto file = material.pictures.find(role);
            row.text(file == material.pictures.end()
                         ? std::string()
                         : std::filesystem::path(file->second).filename().string());
        }
        out += row.line();
    }
    return out;
}

std::string grey_csv(const Level& level) {
    std::string out = "id,name,what,layer,wide_m,deep_m,high_m,places\r\n";
    std::map<std::pair<std::string, std::string>, std::pair<const PlacedPiece*, int>> pieces;
    for_each_item(level, [&](const Item& item, const Layer& layer) {
        if (const PlacedPiece* placed = item.piece()) {
            auto& [one, count] = pieces[{placed->kit_file, placed->piece_id}];
            one = placed, ++count;
        }
        if (!item.brush() || item.brush()->effect == Effect::cut) return;
        const Box3 box = box_of(item);
        out += Row()
                   .text(item.id.value)
                   .text(item.name)
                   .text("brush")
                   .text(layer.name)
                   .place(box.high - box.low)
                   .number(1)
                   .line();
    });
    for (const auto& [key, known] : pieces) {
        const auto& [placed, count] = known;
        const Vec3 size = placed->piece ? placed->piece->size_m : Vec3(0);
        out += Row()
                   .text(key.second)
                   .text(placed->piece ? placed->piece->name : std::string())
                   .text("piece")
                   .text(key.first)
                   .place(size)
                   .number(count)
                   .line();
    }
    return out;
}

} // namespace rubble::parcel
