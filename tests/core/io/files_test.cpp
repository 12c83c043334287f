#include <QtTest/QtTest>

#include <filesystem>
#include <fstream>

#include "core/check/random_level.h"
#include "edit/massing.h"
#include "io/export_formats.h"
#include "io/gltf_export.h"
#include "io/level_file.h"
#include "io/project_file.h"
#include "io/recording_file.h"
#include "io/report.h"
#include "io/text_file.h"
#include "level/brush_shape.h"
#include "test_program.h"

using namespace rubble;
using test::Random;

namespace {

const char* k_small =
    R"({ "format": 1, "name": "Gap", "frame": "space", "character": "courier", "weather": {"tide": "low"},
  "layers": [ { "id": "l1", "name": "Ground", "items": [
    {"id": "b1", "type": "brush", "effect": "fill", "shape": "box", "at": [4,2,0], "size": [8,4,1], "turn_deg": 0, "colour": 3},
    {"id": "u1", "type": "group", "items": [ {"id": "b2", "type": "brush", "shape": "ramp", "at": [0.1,0,0], "size": [1,1,1], "turn_deg": 30} ]},
    {"id": "s1", "type": "element", "kind": "start", "at": [1,2,1], "facing_deg": 0, "values": {"lives": 3}} ] } ],
  "claims": [ {"id": "c1", "kind": "reaches", "from": "s1", "to": "s1"} ],
  "characters": {"courier": {"jump_height_m": 1.5}} })";

/// A level file with one item.
std::string with_item(const char* item) {
    return std::string(R"({"format":1,"name":"One","layers":[{"id":"l1","name":"Ground","items":[)") + item +
           "]}]}";
}

} // namespace

class FilesTest : public QObject {
    Q_OBJECT

private:
    QTemporaryDir folder_;
    std::filesystem::path path(const char* name) { return folder_.filePath(name).toStdString(); }

private slots:
    void turns_of_side_levels_are_those_of_the_picture() {
        const std::string text =
            R"({"format":1,"name":"Side","frame":"side","layers":[{"id":"l1","name":"Ground","items":[
  {"id":"b1","type":"brush","shape":"box","at":[0,0,0],"size":[4,1,2],"turn_deg":90},
  {"id":"b2","type":"brush","shape":"ramp","at":[0,0,0],"size":[4,1,2],"turn_deg":30}]}]})";
        const auto level = io::level_from_text(text, "side");
        QVERIFY2(level, level ? "" : level.error().text().c_str());
        // About the middle of its base, counter-clockwise as it is seen: its length stands upright then.
        const Box3 box = box_of(*level->layers[0]->items[0]);
        QVERIFY(glm::length(box.low - Vec3(-2, -0.5, -2)) < 1e-5 &&
                glm::length(box.high - Vec3(0, 0.5, 2)) < 1e-5);
        const std::string again = io::text_of(*level);
        QVERIFY(again.find(R"("turn_deg":90)") != std::string::npos);
        QVERIFY(again.find(R"("turn_deg":30)") != std::string::npos);
        QVERIFY(again.find("rotation") == std::string::npos);
    }

    void what_block_out_adds_is_written_and_read_again() {
        Level level;
        level.name = "Yard";
        level.character = {"courier"};
        Layer ground, loft;
        ground.id = {"l1"}, ground.name = "Ground", ground.locked = true;
        ground.storey = Storey{1.0, 2.75};
        loft.id = {"l2"}, loft.parent = {"l1"}, loft.tint = {200, 120, 40};
        Brush room;
        room.size = {6, 4, 3};
        room.shell_m = 0.25;
        room.open_sides = {BoxSide::top, BoxSide::near};
        Brush door;
        door.effect = Effect::cut;
        door.host = {"room"};
        Brush dented;
        dented.shape = Shape::body;
        dented.corners = {{0, 0, 0}, {2, 0, 0}, {2, 2, 0}, {0, 2, 0},  {0, 0, 1},
                          {2, 0, 1}, {2, 2, 1}, {0, 2, 1}, {1, 1, 0.5}};
        dented.faces = {{3, 2, 1, 0}, {0, 1, 5, 4}, {1, 2, 6, 5}, {2, 3, 7, 6}, {3, 0, 4, 7},
                        {4, 5, 8},    {5, 6, 8},    {6, 7, 8},    {7, 4, 8}};
        dented.size = {2, 2, 1};
        ground.items = {Item{{"room"}, {}, false, room, {}}, Item{{"door"}, {}, false, door, {}}};
        loft.items = {Item{{"dent"}, {}, false, dented, {}}};
        level.layers = {ground, loft};
        level.dimensions = {{"d1", {{"room"}, {1, 0, 1}}, {{}, {4.5, 0, 2}}}};
        Underlay sketch;
        sketch.id = {"p1"}, sketch.file = "yard.png", sketch.axis = 1, sketch.at = {1, 2, 3},
        sketch.width_m = 12.5;
        sketch.opacity = 0.25, sketch.locked = true, sketch.extra = {{"who", "\"me\""}};
        level.underlays = {sketch};
        level.links = {{{"room"}, {"dent"}, 1, 2.5}, {{"door"}, {"dent"}, -1, 0}};
        const auto again = io::level_from_text(io::text_of(level), "yard");
        QVERIFY2(again, again ? "" : again.error().text().c_str());
        QVERIFY(*again == level);
        QCOMPARE(io::text_of(*again), io::text_of(level));
    }

    void bad_values_of_block_out_are_refused_by_key() {
        const auto error = [](const std::string& keys) {
            const auto level = io::level_from_text(
                R"({"format":1,"layers":[{"id":"l","items":[{"id":"b","type":"brush",)" + keys + "}]}]}",
                "bad");
            return level ? std::string() : level.error().text();
        };
        QCOMPARE(error(R"("size":[2,2,2],"shell_m":0.25)"), std::string());
        QVERIFY(error(R"("size":[2,2,2],"shell_m":1.5)").find("shell_m") != std::string::npos);
        QVERIFY(error(R"("size":[2,2,2],"shell_m":-1)").find("shell_m") != std::string::npos);
        QVERIFY(error(R"("size":[2,2,2],"open_sides":["up"])").find("open_sides") != std::string::npos);
        QVERIFY(error(R"("size":[2,2,2],"open_sides":"top")").find("open_sides") != std::string::npos);
        const auto level = [](const std::string& keys) {
            const auto read = io::level_from_text(R"({"format":1,"layers":[],)" + keys + "}", "bad");
            return read ? std::string() : read.error().text();
        };
        QVERIFY(level(R"("links":[{"a":"x","b":"y","mirror":"z"}])").find("mirror") != std::string::npos);
        QVERIFY(level(R"("underlays":[{"id":"p","file":""}])").find("file") != std::string::npos);
        QVERIFY(level(R"("underlays":[{"id":"p","file":"a.png","across":"up"}])").find("across") !=
                std::string::npos);
        QVERIFY(level(R"("underlays":[{"id":"p","file":"a.png","width_m":0}])").find("width_m") !=
                std::string::npos);
        QVERIFY(level(R"("underlays":[{"id":"p","file":"a.png","opacity":2}])").find("opacity") !=
                std::string::npos);
        QVERIFY(level(R"("dimensions":[{"id":"d","from":{"place":[1,2]},"to":{"place":[0,0,0]}}])")
                    .find("place") != std::string::npos);
    }

    void masses_are_written_and_read_again() {
        Random random(6104);
        for (int round = 0; round < test::rounds(30); ++round) {
            MassEditor cells(MassGrid{random.chance(0.5) ? 0.5 : 0.25, {}});
            for (int x = -20; x < 20; ++x)
                for (int y = -3; y < 10; ++y) cells.set(x, y, -2, random.whole(-1, 2), Cell::full());
            MassGrid grid = cells.finished();
            for (int i = 0; i < 6; ++i) {
                const auto area = edit::area_between(grid, 2, 1, {random.whole(-20, 19), random.whole(-3, 9)},
                                                     {random.whole(-20, 19), random.whole(-3, 9)}, 0, false);
                grid =
                    edit::tilted(grid, area, {random.whole(-1, 1), random.whole(-1, 1)}, random.whole(-2, 3))
                        .grid;
            }
            Brush mass;
            mass.shape = Shape::mass;
            mass.cells = grid;
            mass.place.at = {1, 2, 3};
            Brush pipe;
            pipe.shape = Shape::pipe;
            pipe.size = {4, 4, 1}, pipe.thickness_m = 0.1, pipe.steps = 6;
            pipe.effect = Effect::cut, pipe.within_group = true;
            Layer layer;
            layer.id = {"l1"};
            layer.items = {Item{{"m"}, {}, false, measured(mass), {}}, Item{{"p"}, {}, false, pipe, {}}};
            Level level;
            level.layers = {layer};
            const std::string text = io::text_of(level);
            const auto again = io::level_from_text(text, "mass");
            QVERIFY2(again, again ? "" : again.error().text().c_str());
            QVERIFY(*again == level);
            QCOMPARE(io::text_of(*again), text);
        }
    }

    void bad_masses_are_refused_by_key() {
        const auto error = [](const char* keys) {
            const auto level = io::level_from_text(
                with_item((std::string(R"({"id":"m","type":"brush","shape":"mass",)") + keys + "}").c_str()),
                "bad");
            return level ? std::string() : level.error().text();
        };
        QCOMPARE(error(R"("cell_m":0.5,"cells":[[0,0,0,4,4,2]])"), std::string());
        QCOMPARE(error(R"("cells":[[0,0,0,4,4,2]],"slopes":[[0,0,2,4,4,2,-1,0,2,4]])"), std::string());
        for (const char* cells :
             {"[]", "[[0,0,0,4,4]]", "[[0,0,0,4,4,-2]]", "[[0,0,0,4,4,0]]", "[[0,0,0,1e9,4,1]]",
              "[[9000,0,0,1,1,1]]", "[[0,0,0,0.5,1,1]]", "[3]", "{}", "[[0,0,0,1,1,99999999999]]"})
            QVERIFY2(error((std::string(R"("cells":)") + cells).c_str()).find("cells") != std::string::npos,
                     cells);
        std::string many; // a small file that asks for very many columns
        for (int i = 0; i < 100; ++i) many += (i ? "," : "") + std::string("[-4000,-4000,0,8000,8000,1]");
        QVERIFY(error((R"("cells":[)" + many + "]").c_str()).find("cells") != std::string::npos);
        for (const char* slopes :
             {"[[0,0,0,1,1,1]]", "[[0,0,0,1,1,1,0,0,0,3]]", "[[0,0,0,1,1,1,1,0,99999,3]]",
              "[[0,0,0,1,1,1,1,0,1]]", "[[0,0,0,4000,4000,4000,1,0,1,0]]"})
            QVERIFY2(error((std::string(R"("cells":[[0,0,0,1,1,1]],"slopes":)") + slopes).c_str())
                             .find("slopes") != std::string::npos,
                     slopes);
        QVERIFY(error(R"("cell_m":0.001,"cells":[[0,0,0,1,1,1]])").find("cell_m") != std::string::npos);
        QVERIFY(error(R"("cell_m":-1,"cells":[[0,0,0,1,1,1]])").find("cell_m") != std::string::npos);
    }

    void a_level_reads_back_as_it_was_written() {
        const auto level = io::level_from_text(k_small, "small");
        QVERIFY2(level.has_value(), level ? "" : level.error().text().c_str());
        QCOMPARE(level->extra.at("weather"), std::string(R"({"tide":"low"})"));
        QCOMPARE(find_item(*level, {"b1"})->extra.at("colour"), std::string("3"));
        const std::string text = io::text_of(*level);
        const auto again = io::level_from_text(text, "again");
        QVERIFY(again && *again == *level);
        QCOMPARE(io::text_of(*again), text);
        QCOMPARE(character_of({}, *level).jump_height_m, 1.5);
    }

    void random_levels_read_back_bit_for_bit() {
        Random random(6101);
        for (int i = 0; i < 20; ++i) {
            const Level level = test::random_level(random);
            const auto again = io::level_from_text(io::text_of(level), "again");
            QVERIFY(again && *again == level);
        }
    }

    void round_shapes_keep_their_sides_and_others_have_none() {
        Brush drum;
        drum.shape = Shape::cylinder;
        drum.sides = 7;
        test::LevelMaker maker;
        maker.brush(drum);
        maker.box({0, 0, 0}, {1, 1, 1});
        const std::string text = io::text_of(maker.level());
        QCOMPARE(QString::fromStdString(text).count("\"sides\""), 1);
        QVERIFY(*io::level_from_text(text, "drum.level.json") == maker.level());
    }

    void shapes_keep_their_values() {
        const char* brushes[] = {
            R"({"id":"b","type":"brush","shape":"stairs","at":[0,0,0],"size":[4,2,3],"steps":9})",
            R"({"id":"b","type":"brush","shape":"curved_stairs","at":[0,0,0],"size":[4,4,3],"steps":9,"angle_deg":200,"inner_part":0.25,"thickness_m":0.2})",
            R"({"id":"b","type":"brush","shape":"ball","at":[0,0,0],"size":[2,2,2],"sides":9})",
            R"({"id":"b","type":"brush","shape":"arch","arch":"pointed","at":[0,0,0],"size":[4,1,3],"sides":9,"thickness_m":0.3})",
            R"({"id":"b","type":"brush","shape":"arch","arch":"flat","at":[0,0,0],"size":[4,1,3],"thickness_m":0.3})",
            R"({"id":"b","type":"brush","shape":"outline","at":[1,0,0],"height":2,"points":[[5,5],[9,5],[9,9],[5,9]],"holes":[[[6,6],[6,7],[7,7]]]})",
            R"({"id":"b","type":"brush","shape":"wall_run","at":[0,0,0],"height":2,"points":[[0,0],[3,0],[3,3]],"thickness_m":0.3,"closed":true})",
            R"({"id":"b","type":"brush","shape":"body","at":[0,0,0],"points":[[0,0,0],[1,0,0],[0,1,0],[0,0,1]],"faces":[[0,2,1],[0,1,3],[1,2,3],[2,0,3]]})"};
        for (const char* text : brushes) {
            const auto level = io::level_from_text(with_item(text), "shapes");
            QVERIFY2(level, level ? "" : level.error().text().c_str());
            const auto again = io::level_from_text(io::text_of(*level), "again");
            QVERIFY(again && *again == *level);
            const auto given = io::Json::parse(text), kept = io::Json::parse(io::text_of(*level));
            const auto& item = kept["layers"][0]["items"][0];
            for (const auto& [key, value] : given.items())
                QVERIFY2(item.contains(key) && item[key] == value, key.c_str());
        }
    }

    void shapes_that_cannot_be_built_are_refused_by_the_key_that_is_wrong() {
        const std::pair<const char*, const char*> cases[] = {
            {R"({"id":"b","type":"brush","shape":"stairs","size":[4,2,3],"steps":0})", "steps"},
            {R"({"id":"b","type":"brush","shape":"stairs","size":[4,2,3],"steps":1e9})", "steps"},
            {R"({"id":"b","type":"brush","shape":"stairs","size":[4,2,3],"steps":2.5})", "steps"},
            {R"({"id":"b","type":"brush","shape":"curved_stairs","size":[4,4,3],"angle_deg":99999})",
             "angle_deg"},
            {R"({"id":"b","type":"brush","shape":"curved_stairs","size":[4,4,3],"inner_part":1})",
             "inner_part"},
            {R"({"id":"b","type":"brush","shape":"curved_stairs","size":[4,4,3],"angle_deg":720,"steps":20,"thickness_m":0})",
             "thickness_m"},
            {R"({"id":"b","type":"brush","shape":"arch","size":[1,1,3],"thickness_m":0.5})", "thickness_m"},
            {R"({"id":"b","type":"brush","shape":"arch","arch":"crooked","size":[4,1,3]})", "arch"},
            {R"({"id":"b","type":"brush","shape":"ball","size":[2,2,2],"sides":2})", "sides"},
            {R"({"id":"b","type":"brush","shape":"outline","points":[[0,0],[1,0]]})", "points"},
            {R"({"id":"b","type":"brush","shape":"outline","points":[[0,0],[1,0],["a",1]]})", "points"},
            {R"({"id":"b","type":"brush","shape":"outline","points":[[0,0],[1,0],[1,1,1]]})", "points"},
            {R"({"id":"b","type":"brush","shape":"outline","points":[[0,0],[1,0],[1,1e300]]})", "points"},
            {R"({"id":"b","type":"brush","shape":"outline","points":[[0,0],[2,2],[2,0],[0,2]]})", "points"},
            {R"({"id":"b","type":"brush","shape":"outline","points":[[0,0],[2,0],[2,2]],"holes":[[1,2]]})",
             "holes"},
            {R"({"id":"b","type":"brush","shape":"outline","height":-1,"points":[[0,0],[2,0],[2,2]]})",
             "size"},
            {R"({"id":"b","type":"brush","shape":"wall_run","points":[[0,0],[0,0]]})", "points"},
            {R"({"id":"b","type":"brush","shape":"wall_run","points":[[0,0],[1,0]],"thickness_m":-1})",
             "thickness_m"},
            {R"({"id":"b","type":"brush","shape":"body","points":[[0,0,0],[1,0,0],[0,1,0],[0,0,1]],"faces":[[0,2,1],[0,1,3],[1,2,3],[2,0,9]]})",
             "faces"},
            {R"({"id":"b","type":"brush","shape":"body","points":[[0,0,0],[1,0,0],[0,1,0],[0,0,1]],"faces":[[0,2,1],[0,1,3]]})",
             "faces"},
            {R"({"id":"b","type":"brush","shape":"body","points":[],"faces":[]})", "faces"}};
        for (const auto& [text, key] : cases) {
            const auto level = io::level_from_text(with_item(text), "shapes");
            QVERIFY2(!level, text);
            QVERIFY2(level.error().text().find(key) != std::string::npos, level.error().text().c_str());
        }
    }

    void errors_name_the_file_the_place_and_what_was_expected() {
        struct Case {
            const char *text, *code, *part;
        };
        for (
            const Case& c :
            {Case{"{ \"format\": 1,\n \"layers\": [ }", "json.syntax", "line 2"},
             Case{"{ \"format\": 2 }", "level.format", "newer"}, Case{"{}", "file.value", "/format"},
             Case{"[]", "file.value", "an object"},
             Case{R"({"format":1,"layers":[{"id":"l","items":[{"id":"b","type":"brush","at":[0,0]}]}]})",
                  "file.value", "/layers/0/items/0/at"},
             Case{R"({"format":1,"layers":[{"id":"l","items":[{"id":"b","type":"brush","size":[1,1,0]}]}]})",
                  "file.value", "size"},
             Case{R"({"format":1,"layers":[{"id":"l","items":[{"id":"b","type":"brush","at":[1e9,0,0]}]}]})",
                  "file.value", "10000 m"},
             Case{R"({"format":1,"layers":[{"id":"l","items":[{"id":"b","type":"blob"}]}]})", "file.value",
                  "one of brush"},
             Case{
                 R"({"format":1,"layers":[{"id":"l","items":[{"id":"b","type":"group"},{"id":"b","type":"group"}]}]})",
                 "level.id", "two items"},
             Case{R"({"format":1,"claims":[{"id":"c","kind":"hopes"}]})", "file.value", "reaches"},
             Case{
                 R"({"format":1,"layers":[{"id":"l","items":[{"id":"a","type":"brush","shape":"cone","sides":2}]}]})",
                 "file.value", "from 3 to 64"},
             Case{
                 R"({"format":1,"layers":[{"id":"l","items":[{"id":"a","type":"brush","shape":"cylinder","size":[0.001,1,1]}]}]})",
                 "file.value", "0.01 m"},
             Case{R"({"format":1,"characters":{"courier":{"wings":2}}})", "file.value", "wings"},
             Case{R"({"format":1,"characters":{"courier":{"radius_m":-2}}})", "level.metric", "radius_m"}}) {
            const auto level = io::level_from_text(c.text, "bad.level.json");
            QVERIFY2(!level, c.text);
            QVERIFY2(level.error().code == c.code && level.error().text().find(c.part) != std::string::npos,
                     level.error().text().c_str());
            QVERIFY(level.error().place.find("bad.level.json") != std::string::npos);
        }
        QVERIFY(io::load_level(path("nowhere")).error().code == "file.missing");
    }

    void changed_bytes_never_crash() {
        Random random(6102);
        const std::string good = k_small;
        for (int i = 0; i < test::rounds(3000); ++i) {
            std::string text = good;
            for (int k = random.whole(1, 4); k > 0; --k) {
                const size_t at = size_t(random.whole(0, int(text.size()) - 1));
                if (random.chance(0.3))
                    text.erase(at, size_t(random.whole(1, 20)));
                else
                    text[at] = char(random.whole(0, 255));
                if (text.empty()) text = "x";
            }
            const auto level = io::level_from_text(text, "fuzz");
            if (level) io::text_of(*level);
        }
    }

    void a_number_that_no_double_holds_is_named() {
        const auto read =
            io::level_from_text(R"({"format": 1, "name": "x", "layers": [], "far": 1e400})", "far.json");
        QVERIFY(!read);
        QCOMPARE(read.error().code, std::string("json.number"));
        QVERIFY(read.error().message.find("1e400") != std::string::npos);
    }

    void deep_nesting_is_refused() {
        const std::string deep = std::string(100000, '[') + std::string(100000, ']');
        QVERIFY(!io::level_from_text(deep, "deep"));
    }

    void writing_is_whole_or_not_at_all() {
        QVERIFY(io::write_file(path("a.txt"), "old"));
        std::filesystem::permissions(path("a.txt"), std::filesystem::perms::owner_read);
        QVERIFY(io::write_file(path("a.txt"), "new")); // replaced by name, not written into
        QCOMPARE(*io::read_file(path("a.txt")), std::string("new"));
        QVERIFY(io::write_file("/proc/nowhere/a.txt", "x").error().code == "file.write");
        int entries = 0;
        for (const auto& entry : std::filesystem::directory_iterator(folder_.path().toStdString()))
            entries += entry.exists();
        QCOMPARE(entries, 1);
    }

    void the_demo_reads_and_passes_its_claims() {
        const std::filesystem::path demo = RUBBLE_SOURCE_DIR "/demo-data/packing-hall";
        const auto project = io::load_project(demo);
        QVERIFY(project);
        auto again = io::project_from_text(io::text_of(*project), "again").value();
        again.sheets = project->sheets, again.kits = project->kits; // they have files of their own
        QCOMPARE(again.element_kinds.size(), project->element_kinds.size());
        for (size_t i = 0; i < again.element_kinds.size(); ++i)
            QVERIFY(*again.element_kinds[i] == *project->element_kinds[i]);
        again.element_kinds = project->element_kinds;
        for (size_t i = 0; i < again.materials.size(); ++i)
            again.materials[i].read = project->materials[i].read;
        QVERIFY(again == *project);
        for (const auto& file : io::level_files(demo)) {
            const auto level = io::load_level(file);
            QVERIFY(level);
            QCOMPARE(io::text_of(*level), *io::read_file(file)); // the files are as the program writes them
        }
    }

    void a_recording_reads_back_bit_for_bit() {
        Random random(6103);
        motion::Recording recording{{0.1, 0.2, 0.3}, {}};
        for (int i = 0; i < 100; ++i)
            recording.runs.push_back({random.whole(1, 9),
                                      {{random.between(-1, 1), random.between(-1, 1)},
                                       random.chance(0.5),
                                       random.chance(0.5),
                                       false}});
        const auto again = io::recording_from_json(io::to_json(recording), "r");
        QVERIFY(again && *again == recording);
        io::Json bad = io::to_json(recording);
        bad["runs"][0][0] = 2000000000;
        QVERIFY(!io::recording_from_json(bad, "r"));
    }

    void an_export_is_the_same_each_time_and_passes_the_validator() {
        const auto loaded = io::load_level_with_project(
            RUBBLE_SOURCE_DIR "/demo-data/packing-hall/levels/packing-hall.level.json");
        QVERIFY(loaded);
        const auto glb = io::gltf_text(loaded->project, loaded->level, true);
        QVERIFY(glb && *glb == *io::gltf_text(loaded->project, loaded->level, true));
        QCOMPARE(glb->substr(0, 4), std::string("glTF"));
        QVERIFY(io::export_level(loaded->project, loaded->level, path("hall.glb")));
        QVERIFY(io::export_level(loaded->project, loaded->level, path("hall.gltf")));
        QVERIFY(io::export_level(loaded->project, loaded->level, path("hall.obj")));
        QVERIFY(io::export_level(loaded->project, loaded->level, path("hall.xyz")).error().code ==
                "export.ending");
        QProcess validator;
        validator.start(QStringLiteral(RUBBLE_SOURCE_DIR "/scripts/validate-gltf"),
                        {QString::fromStdString(path("hall.glb").string()),
                         QString::fromStdString(path("hall.gltf").string())});
        QVERIFY(validator.waitForFinished(180000));
        if (validator.exitCode() == 77) QSKIP("npm or the glTF validator is not to be had here");
        QVERIFY2(validator.exitCode() == 0, validator.readAll().constData());
    }

    void info_tells_the_solids_volume() {
        Level level = new_level("New", {"courier"});
        const io::Json report = io::info_report({}, level);
        QCOMPARE(report["solid"]["volume_m3"].get<double>(), 128.0);
        QCOMPARE(report["solid"]["open_edges"].get<int>(), 0);
    }
};

RUBBLE_TEST(FilesTest)
#include "files_test.moc"
