#include "element_names.h"

#include <array>
#include <map>
#include <string>

#include "text.h"

namespace rubble::app {

std::span<const ElementName> element_names() {
    static constexpr std::array k_names{
        ElementName{"start", "place start", [] { return tr("Start"); }, [] { return tr("Place: start"); }},
        ElementName{"goal", "place goal", [] { return tr("Goal"); }, [] { return tr("Place: goal"); }},
        ElementName{"place", "place place", [] { return tr("Place"); },
                    [] { return tr("Place: named place"); }},
        ElementName{"note", "place note", [] { return tr("Note"); }, [] { return tr("Place: note"); }},
        ElementName{"checkpoint", "place checkpoint", [] { return tr("Return"); },
                    [] { return tr("Place: checkpoint"); }},
        ElementName{"pickup", "place pickup", [] { return tr("Pick-up"); },
                    [] { return tr("Place: pick-up"); }},
        ElementName{"key", "place key", [] { return tr("Key"); }, [] { return tr("Place: key"); }},
        ElementName{"item", "place item", [] { return tr("Item"); },
                    [] { return tr("Place: item that makes immune"); }},
        ElementName{"door", "place door", [] { return tr("Door"); }, [] { return tr("Place: door"); }},
        ElementName{"gate", "place gate", [] { return tr("Gate"); },
                    [] { return tr("Place: gate that opens at a count"); }},
        ElementName{"switch", "place switch", [] { return tr("Switch"); },
                    [] { return tr("Place: switch"); }},
        ElementName{"crate", "place crate", [] { return tr("Crate"); }, [] { return tr("Place: crate"); }},
        ElementName{"dispenser", "place dispenser", [] { return tr("Giver"); },
                    [] { return tr("Place: dispenser of crates"); }},
        ElementName{"time_limit", "place time limit", [] { return tr("Clock"); },
                    [] { return tr("Place: time limit"); }},
        ElementName{"barrier", "place barrier", [] { return tr("Barrier"); },
                    [] { return tr("Place: barrier"); }},
        ElementName{"floor", "place floor", [] { return tr("Floor"); },
                    [] { return tr("Place: slippery, carrying, crumbling or deadly floor"); }},
        ElementName{"hazard", "place hazard", [] { return tr("Hazard"); },
                    [] { return tr("Place: hazard"); }},
        ElementName{"foe", "place foe", [] { return tr("Foe"); }, [] { return tr("Place: foe"); }},
        ElementName{"lift", "place lift", [] { return tr("Lift"); },
                    [] { return tr("Place: lift or moving deck"); }},
        ElementName{"deck", "place deck", [] { return tr("Deck"); },
                    [] { return tr("Place: deck, from below or crumbling"); }},
        ElementName{"ladder", "place ladder", [] { return tr("Ladder"); },
                    [] { return tr("Place: ladder"); }},
        ElementName{"launcher", "place launcher", [] { return tr("Launch"); },
                    [] { return tr("Place: launcher"); }},
        ElementName{"sign", "place sign", [] { return tr("Sign"); }, [] { return tr("Place: sign"); }},
        ElementName{"zone", "place zone", [] { return tr("Zone"); },
                    [] { return tr("Place: named volume"); }},
        ElementName{"lamp", "place lamp", [] { return tr("Lamp"); },
                    [] { return tr("Place: lamp, cone or strip of light"); }},
        ElementName{"decal", "place decal", [] { return tr("Decal"); },
                    [] { return tr("Place: decal, a picture over what is there"); }},
        ElementName{"sun", "place sun", [] { return tr("Sun"); }, [] { return tr("Place: sun"); }},
    };
    return k_names;
}

QString element_field_name(const char* key) {
    static const std::map<std::string, QString (*)()> k_words{
        {"color", [] { return tr("Colour"); }},
        {"material", [] { return tr("Material"); }},
        {"print", [] { return tr("Print"); }},
        {"width_m", [] { return tr("Width"); }},
        {"height_m", [] { return tr("Height"); }},
        {"depth_m", [] { return tr("Seen within"); }},
        {"lumens", [] { return tr("Sends out"); }},
        {"lux", [] { return tr("What arrives"); }},
        {"reach_m", [] { return tr("Reach"); }},
        {"opening_deg", [] { return tr("Opening of its cone"); }},
        {"tilt_deg", [] { return tr("Tilt, down below 0"); }},
        {"height_deg", [] { return tr("Height over the horizon"); }},
        {"length_m", [] { return tr("Length of a strip"); }},
        {"key", [] { return tr("Key it needs"); }},
        {"kind", [] { return tr("Of what kind"); }},
        {"kept", [] { return tr("Kept when used"); }},
        {"gives", [] { return tr("Gives"); }},
        {"open", [] { return tr("Open at first"); }},
        {"open_by", [] { return tr("Swapped by"); }},
        {"pickup", [] { return tr("Counts"); }},
        {"count", [] { return tr("Opens at"); }},
        {"mode", [] { return tr("Works"); }},
        {"by", [] { return tr("Pressed by"); }},
        {"size_m", [] { return tr("Size"); }},
        {"one_way", [] { return tr("One way only"); }},
        {"crates", [] { return tr("Lets crates pass"); }},
        {"acts", [] { return tr("What it does"); }},
        {"towards_deg", [] { return tr("Carries towards"); }},
        {"without", [] { return tr("Harmless with"); }},
        {"way", [] { return tr("Goes"); }},
        {"path", [] { return tr("Way"); }},
        {"stops", [] { return tr("Stops"); }},
        {"speed_mps", [] { return tr("Speed"); }},
        {"wait_s", [] { return tr("Waits at each"); }},
        {"runs", [] { return tr("Runs"); }},
        {"called_by", [] { return tr("Called by"); }},
        {"crumbles_s", [] { return tr("Gone after"); }},
        {"height_m", [] { return tr("Height"); }},
        {"velocity_mps", [] { return tr("Throws at"); }},
        {"leads_to", [] { return tr("Leads on to level"); }},
        {"one_of", [] { return tr("One of those called"); }},
        {"skill", [] { return tr("Adds to"); }},
        {"adds", [] { return tr("So much"); }},
        {"needs", [] { return tr("Pushed only with"); }},
        {"sight_m", [] { return tr("Sees"); }},
        {"seed", [] { return tr("Chance number"); }},
        {"seconds", [] { return tr("Time to the goal"); }},
        {"steps", [] { return tr("Steps to the goal"); }},
        {"says", [] { return tr("Says"); }},
        {"name", [] { return tr("Called"); }}};
    if (const auto known = k_words.find(key); known != k_words.end()) return known->second();
    QString words = QString::fromUtf8(key).replace('_', ' ');
    words[0] = words[0].toUpper();
    return words;
}

QString element_choice_name(const char* choice) {
    static const std::map<std::string, QString (*)()> k_words{
        {"once", [] { return tr("once"); }},
        {"toggle", [] { return tr("on and off"); }},
        {"held", [] { return tr("while held"); }},
        {"any", [] { return tr("foot or crate"); }},
        {"foot", [] { return tr("foot"); }},
        {"crate", [] { return tr("crate"); }},
        {"slippery", [] { return tr("slippery"); }},
        {"carries", [] { return tr("carries"); }},
        {"crumbles", [] { return tr("crumbles"); }},
        {"deadly", [] { return tr("deadly"); }},
        {"loop", [] { return tr("round and round"); }},
        {"turns", [] { return tr("ahead, and turns back at walls and edges"); }},
        {"follows_left", [] { return tr("along the wall on its left"); }},
        {"follows_right", [] { return tr("along the wall on its right"); }},
        {"wanders", [] { return tr("here and there"); }},
        {"comes_nearer", [] { return tr("towards the figure when it sees it"); }},
        {"use", [] { return tr("whoever uses it"); }},
        {"", [] { return tr("nothing"); }},
        {"further_jumps", [] { return tr("further jumps"); }},
        {"jump_height_m", [] { return tr("height of jumps (m)"); }},
        {"run_speed_mps", [] { return tr("speed of running (m/s)"); }},
        {"pull_up_m", [] { return tr("pulling up (m)"); }},
        {"push_part", [] { return tr("pushing (part of running)"); }},
        {"climb_speed_mps", [] { return tr("speed of climbing (m/s)"); }},
        {"always", [] { return tr("always"); }},
        {"called", [] { return tr("stood on or called"); }},
        {"back_and_forth", [] { return tr("back and forth"); }}};
    const auto known = k_words.find(choice);
    return known == k_words.end() ? QString::fromUtf8(choice) : known->second();
}

} // namespace rubble::app
