#include "io/play_file.h"

#include <algorithm>
#include <array>
#include <cmath>

#include "io/names.h"

namespace rubble::io {

namespace {

struct RuleField {
    const char* key;
    bool PuzzleRules::*member;
};
constexpr RuleField k_puzzle_rules[] = {{"two_crates", &PuzzleRules::two_crates},
                                        {"crates_slide", &PuzzleRules::crates_slide},
                                        {"keys_are_kept", &PuzzleRules::keys_are_kept},
                                        {"nobody_pushes", &PuzzleRules::nobody_pushes}};

constexpr std::array k_roles{Name<Role>{"start", Role::start}, Name<Role>{"goal", Role::goal},
                             Name<Role>{"thing", Role::thing}, Name<Role>{"device", Role::device},
                             Name<Role>{"place", Role::place}, Name<Role>{"note", Role::note}};

constexpr std::array k_field_types{
    Name<FieldType>{"number", FieldType::number}, Name<FieldType>{"flag", FieldType::flag},
    Name<FieldType>{"choice", FieldType::choice}, Name<FieldType>{"text", FieldType::text},
    Name<FieldType>{"size", FieldType::size},     Name<FieldType>{"places", FieldType::places},
    Name<FieldType>{"items", FieldType::items},   Name<FieldType>{"color", FieldType::color}};

/// Most elements of a kind that a limit can speak of.
constexpr double k_most = 1e6;

ElementField read_field(Reader& in) {
    ElementField field;
    field.key = in.text("key");
    if (field.key.empty()) in.fail("key", "the key of the value in files");
    field.type = choice(in, "type", k_field_types, "number");
    field.unit = in.text("unit");
    field.least = in.number("least", 0), field.most = in.number("most", 1000);
    field.usual = in.number("usual", std::clamp(0.0, std::min(field.least, field.most), field.most));
    if (!(field.least <= field.usual && field.usual <= field.most))
        in.fail("usual", "a number from the least to the most");
    field.choices = texts(in, "choices");
    if (field.type == FieldType::choice && field.choices.empty()) in.fail("choices", "at least one choice");
    const auto size = in.numbers("usual_size_m", 3, {1, 1, 1});
    if (size.size() == 3) field.usual_size = {size[0], size[1], size[2]};
    if (field.type == FieldType::size) {
        field.least = 0.05, field.most = 100;
        for (const double side : size)
            if (!(side >= field.least && side <= field.most))
                in.fail("usual_size_m", "sides from 0.05 to 100 m");
    }
    field.usual_text = in.text("usual_text");
    return field;
}

Json field_json(const ElementField& field) {
    Json json{{"key", field.key}, {"type", key_of(k_field_types, field.type)}};
    if (!field.unit.empty()) json["unit"] = field.unit;
    if (field.type == FieldType::number)
        json["least"] = field.least, json["most"] = field.most, json["usual"] = field.usual;
    if (!field.choices.empty()) json["choices"] = field.choices;
    if (field.type == FieldType::size) json["usual_size_m"] = to_json(field.usual_size);
    if (!field.usual_text.empty()) json["usual_text"] = field.usual_text;
    return json;
}

int read_count(Reader& in, const std::string& key, int otherwise) {
    const double count = in.number(key, otherwise);
    if (!(count >= -1 && count <= k_most) || count != std::floor(count))
        in.fail(key, "a whole number up to 1000000");
    return int(std::clamp(count, -1.0, k_most));
}

Sign read_sign(Reader& in, Sign otherwise) {
    const auto keys = sign_keys();
    const std::string word = in.text("sign", keys[size_t(otherwise)]);
    const auto found = std::find(keys.begin(), keys.end(), word);
    if (found == keys.end()) {
        in.fail("sign", "the name of a sign");
        return otherwise;
    }
    return Sign(found - keys.begin());
}

} // namespace

PuzzleRules read_puzzle_rules(Reader& in, const std::string& key) {
    PuzzleRules out;
    if (!in.has(key)) return out;
    Reader rules(in.object(key), in.place(), in.path_of(key));
    for (const RuleField& field : k_puzzle_rules) out.*field.member = rules.flag(field.key, false);
    in.take_error(rules);
    return out;
}

Json puzzle_rules_json(const PuzzleRules& rules) {
    Json json;
    for (const RuleField& field : k_puzzle_rules)
        if (rules.*field.member) json[field.key] = true;
    return json;
}

std::shared_ptr<const ElementKind> read_element_kind(Reader& in) {
    ElementKind kind;
    kind.key = in.text("key");
    if (kind.key.empty()) in.fail("key", "the key of the kind in files");
    const auto known = element_kinds();
    const auto find = [&](const std::string& key) {
        return std::find_if(known.begin(), known.end(),
                            [&](const ElementKind& one) { return one.key == key; });
    };
    const bool is_own = find(kind.key) == known.end();
    if (!is_own) kind = *find(kind.key);
    if (is_own) {
        kind.name = in.text("name", kind.key);
        kind.acts_as = in.text("acts_as");
        kind.id_prefix = "e";
        if (!kind.acts_as.empty()) {
            const auto like = find(kind.acts_as);
            if (like == known.end()) {
                in.fail("acts_as", "a kind that every project has, or none");
            } else {
                kind.role = like->role, kind.sign = like->sign, kind.id_prefix = like->id_prefix;
                kind.fields = like->fields, kind.acting = like->acting;
            }
        }
        kind.role = choice(in, "role", k_roles, key_of(k_roles, kind.role));
        kind.sign = read_sign(in, kind.sign);
        const Json& fields = in.list("fields");
        for (size_t i = 0; i < fields.size(); ++i) {
            Reader own(fields[i], in.place(), in.path_of("fields") + "/" + std::to_string(i));
            ElementField field = read_field(own);
            in.take_error(own);
            std::erase_if(kind.fields, [&](const ElementField& one) { return one.key == field.key; });
            kind.fields.push_back(std::move(field));
        }
    }
    kind.at_least = std::max(read_count(in, "at_least", 0), 0);
    kind.at_most = read_count(in, "at_most", -1);
    return std::make_shared<const ElementKind>(std::move(kind));
}

Json element_kind_json(const ElementKind& kind) {
    Json json{{"key", kind.key}};
    if (!kind.name.empty()) {
        json["name"] = kind.name;
        if (!kind.acts_as.empty()) json["acts_as"] = kind.acts_as;
        json["role"] = key_of(k_roles, kind.role);
        json["sign"] = sign_keys()[size_t(kind.sign)];
        Json fields = Json::array();
        const ElementKind* like = kind.acts_as.empty() ? nullptr : &kind_of(kind.acts_as);
        for (const ElementField& field : kind.fields)
            if (const ElementField* same = like ? like->field(field.key) : nullptr; !same || *same != field)
                fields.push_back(field_json(field));
        if (!fields.empty()) json["fields"] = fields;
    }
    if (kind.at_least > 0) json["at_least"] = kind.at_least;
    if (kind.at_most >= 0) json["at_most"] = kind.at_most;
    return json;
}

RuleSet read_rule_set(Reader& in) {
    RuleSet set;
    set.name = in.text("name");
    if (set.name.empty()) in.fail("name", "a name");
    set.rules = read_puzzle_rules(in, "rules");
    return set;
}

Json rule_set_json(const RuleSet& set) {
    Json json{{"name", set.name}};
    if (Json rules = puzzle_rules_json(set.rules); !rules.is_null()) json["rules"] = rules;
    return json;
}

KindOfPlay read_kind_of_play(Reader& in) {
    KindOfPlay kind;
    kind.key = in.text("key");
    if (kind.key.empty()) in.fail("key", "the key of the kind in files");
    kind.name = in.text("name", kind.key);
    kind.serves = texts(in, "serves"), kind.unusual = texts(in, "unusual"), kind.rules = texts(in, "rules");
    return kind;
}

Json kind_of_play_json(const KindOfPlay& kind) {
    return {{"key", kind.key},
            {"name", kind.name},
            {"serves", kind.serves},
            {"unusual", kind.unusual},
            {"rules", kind.rules}};
}

namespace {

struct SkillField {
    const char* key;
    double Skill::*member;
    double most;
};
constexpr SkillField k_skill_fields[] = {{"press_ms", &Skill::press_ms, 2000},
                                         {"turn_deg", &Skill::turn_deg, 90},
                                         {"stick_pct", &Skill::stick_pct, 100},
                                         {"reaction_ms", &Skill::reaction_ms, 5000}};

} // namespace

Skill read_skill(Reader& in) {
    Skill skill;
    skill.name = in.text("name");
    if (skill.name.empty()) in.fail("name", "a name");
    for (const SkillField& field : k_skill_fields) {
        skill.*field.member = in.number(field.key, 0);
        if (skill.*field.member < 0 || skill.*field.member > field.most)
            in.fail(field.key, "a number from 0 to " + std::to_string(int(field.most)));
    }
    return skill;
}

Json skill_json(const Skill& skill) {
    Json json;
    json["name"] = skill.name;
    for (const SkillField& field : k_skill_fields) json[field.key] = skill.*field.member;
    return json;
}

} // namespace rubble::io
