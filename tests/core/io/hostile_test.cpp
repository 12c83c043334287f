#include <QtTest/QtTest>

#include <csignal>
#include <filesystem>
#include <fstream>

#include <sys/resource.h>
#include <sys/stat.h>
#include <sys/sysmacros.h>

#include "build/surface_builder.h"
#include "check/check.h"
#include "core/level_maker.h"
#include "core/random.h"
#include "edit/measures.h"
#include "io/ci_reports.h"
#include "io/gltf_export.h"
#include "io/level_file.h"
#include "io/project_file.h"
#include "io/recording_file.h"
#include "io/text_file.h"
#include "level/brush_shape.h"
#include "level/item_search.h"
#include "level/limits.h"
#include "test_program.h"

using namespace rubble;
namespace fs = std::filesystem;

namespace {

std::string case_text(const std::string& name) {
    return io::read_file(std::string(RUBBLE_SOURCE_DIR "/tests/cases/") + name).value_or("");
}

/// Lets no file grow larger than some bytes, as on a full disk, while it lives.
struct FullDisk {
    rlimit before{};
    explicit FullDisk(rlim_t bytes) {
        std::signal(SIGXFSZ, SIG_IGN);
        getrlimit(RLIMIT_FSIZE, &before);
        const rlimit full{bytes, before.rlim_max};
        setrlimit(RLIMIT_FSIZE, &full);
    }
    ~FullDisk() { setrlimit(RLIMIT_FSIZE, &before); }
};

/// One to three of a file's values put to odd ones.
io::Json spoilt(io::Json file, const std::vector<io::Json::json_pointer>& places, test::Random& random) {
    const io::Json values[] = {0,
                               -1,
                               1,
                               2,
                               3,
                               1e-9,
                               1e-5,
                               0.01,
                               1e4,
                               1e9,
                               1e308,
                               -1e4,
                               "x",
                               nullptr,
                               io::Json::array(),
                               io::Json::object()};
    for (int k = random.whole(1, 3); k > 0; --k)
        file[places[size_t(random.whole(0, int(places.size()) - 1))]] =
            values[size_t(random.whole(0, int(std::size(values)) - 1))];
    return file;
}

} // namespace

/// Files and disks that mean harm: each is a message, and nothing is lost.
class HostileTest : public QObject {
    Q_OBJECT

    QTemporaryDir folder_;
    fs::path in_folder(const char* name) const { return folder_.filePath(name).toStdString(); }
    size_t files_here() const {
        return size_t(std::distance(fs::directory_iterator(folder_.path().toStdString()), {}));
    }

private slots:
    void stairs_too_thin_to_be_built_are_refused() {
        for (const char* name : {"sigfpe", "sigfpe-stairs", "sigfpe-full"}) {
            const auto level = io::level_from_text(case_text(name + std::string(".level.json")), name);
            QVERIFY(!level);
            QVERIFY2(level.error().text().find("size") != std::string::npos, level.error().text().c_str());
        }
    }

    void every_shape_that_is_said_to_be_sound_is_built() {
        // Down to the thinnest that is let in.
        for (int shape = 0; shape <= int(Shape::pipe); ++shape)
            for (const double thin : {0.0, 1e-6, 1e-5, 1e-4, 1e-3, 0.01, 0.03})
                for (int axis = 0; axis < 3; ++axis)
                    for (const int steps : {1, 8, 200}) {
                        Brush brush;
                        brush.shape = Shape(shape), brush.steps = steps;
                        brush.size[axis] = thin;
                        brush.thickness_m = 0.1;
                        brush.place.turn_deg = 33;
                        if (problem_of(brush).empty()) QVERIFY(!body_of(brush).points.empty());
                    }
    }

    void what_is_nested_deep_is_opened_and_deeper_is_refused() {
        const auto level = io::level_from_text(case_text("grouped-40-times-unopenable.level.json"), "deep");
        QVERIFY2(level, level ? "" : level.error().text().c_str());
        QVERIFY(*io::level_from_text(io::text_of(*level), "again") == *level);
        Item item{{"i"}, {}, false, Element{"note", Vec3(0), 0, {}}, {}};
        for (int i = 0; i < deepest_group; ++i)
            item = {{"g" + std::to_string(i)}, {}, false, Group{{Shared<Item>(item)}}, {}};
        Level deep = new_level("deep", {"courier"}), before = deep;
        Layer layer = *deep.layers[0];
        layer.items.push_back(item);
        deep.layers[0] = layer;
        QVERIFY(!unkept_item(before, deep));
        QVERIFY(io::level_from_text(io::text_of(deep), "deep"));
        layer.items.push_back(Item{{"one more"}, {}, false, Group{{Shared<Item>(item)}}, {}});
        deep.layers[0] = layer;
        QVERIFY(unkept_item(before, deep));
        QVERIFY(!io::level_from_text(io::text_of(deep), "deep"));
    }

    void project_files_with_changed_values_are_read_or_refused() {
        const auto good = io::parse_json(io::text_of(io::new_project("Cannery")), "project");
        QVERIFY(good);
        std::vector<io::Json::json_pointer> places;
        const io::Json all = good->flatten();
        for (const auto& [place, value] : all.items()) places.emplace_back(place);
        test::LevelMaker maker;
        maker.box({0, 0, -1}, {10, 10, 1}), maker.box({2, 0, 0}, {2, 2, 1});
        const ItemId start = maker.start({-3, 0, 0}), goal = maker.goal({2, 0, 1});
        maker.claim(Claim::Kind::reaches, start, goal);
        test::Random random(7302);
        int read = 0;
        for (int round = 0; round < test::rounds(600); ++round) {
            const auto project = io::project_from_text(io::to_text(spoilt(*good, places, random)), "changed");
            if (!project) continue;
            ++read;
            QVERIFY(*io::project_from_text(io::text_of(*project), "again") == *project);
            edit::departures(*project, maker.level());
            const Character c = character_of(*project, maker.level());
            if (problem_of(c).empty() && round % 10 == 0) check::check_level(*project, maker.level());
        }
        QVERIFY(read > 0);
    }

    void files_of_every_shape_with_changed_values_are_built_or_refused() {
        auto good = io::parse_json(case_text("sigfpe-full.level.json"), "full");
        QVERIFY(good);
        (*good)["layers"][0]["items"][3]["size"] = {4, 2, 3}; // the stairs that cannot be built
        QVERIFY(io::level_from_text(io::to_text(*good), "full"));
        std::vector<io::Json::json_pointer> places;
        const io::Json all = good->flatten();
        for (const auto& [place, value] : all.items()) places.emplace_back(place);
        test::Random random(7301);
        int built = 0;
        for (int round = 0; round < test::rounds(600); ++round) {
            const io::Json changed = spoilt(*good, places, random);
            const auto level = io::level_from_text(io::to_text(changed), "changed");
            if (!level) continue;
            ++built;
            QVERIFY(*io::level_from_text(io::text_of(*level), "again") == *level);
            const auto solid = build::build_solid(*level);
            QCOMPARE(facts_of(build::surface_of(solid)).open_edges, size_t(0));
            found_items(*level, "x>0");
        }
        QVERIFY(built > 0);
    }

    void numbers_out_of_all_bounds_are_messages() {
        QVERIFY(!io::level_from_text(case_text("format-1e300.level.json"), "format"));
        const auto json = io::parse_json(case_text("replay-hang.run.json"), "run");
        QVERIFY(json && !io::recording_from_json(*json, "run"));
        const auto far = io::level_from_text(case_text("ubsan-inf-to-long.level.json"), "far");
        if (far) check::check_level({}, *far);
    }

    void very_many_keys_take_no_longer_than_their_number() {
        // Each would take minutes if every key were compared with all others.
        std::string values;
        for (int i = 0; i < 100'000; ++i) values += (i ? ",\"k" : "\"k") + std::to_string(i) + "\":1";
        const std::string begin = R"({"format":1,"name":"x","layers":[{"id":"a","name":"A","items":[)";
        const auto level = io::level_from_text(
            begin + R"({"id":"s","type":"element","kind":"start","at":[0,0,0],"values":{)" + values +
                "}}]}]," + R"("characters":{},)" + values + "}",
            "many");
        QVERIFY2(level, level ? "" : level.error().text().c_str());
        QCOMPARE(level->extra.size(), size_t(100'000));
        QVERIFY(*io::level_from_text(io::text_of(*level), "again") == *level);
    }

    void kinds_of_elements_that_are_not_known_are_kept() {
        const auto level = io::level_from_text(
            R"({"format":1,"layers":[{"id":"a","items":[{"id":"x","type":"element","kind":"winch","at":[1,2,3],
                "values":{"pull":7}}]}]})",
            "level");
        QVERIFY(level);
        QVERIFY(*io::level_from_text(io::text_of(*level), "again") == *level);
    }

    void every_shape_is_found_by_its_word() {
        test::LevelMaker maker;
        maker.box({0, 0, 0}, {1, 1, 1});
        Level level = maker.level();
        for (int shape = 0; shape <= int(Shape::mass); ++shape) {
            Brush brush;
            brush.shape = Shape(shape);
            Layer layer = *level.layers[0];
            layer.items.push_back(Item{{"shape" + std::to_string(shape)}, {}, false, brush, {}});
            level.layers[0] = layer;
        }
        QVERIFY(!found_items(level, "pipe").empty());
        QVERIFY(!found_items(level, "mass").empty());
        QCOMPARE(found_items(level, "brush").size(), size_t(int(Shape::mass) + 2));
    }

    void a_disk_that_fills_up_at_any_byte_leaves_the_old_file() {
        const fs::path path = in_folder("full.level.json");
        const Level old = new_level("old", {"courier"}), fresh = new_level("fresh", {"courier"});
        QVERIFY(io::save_level(old, path));
        const size_t length = io::text_of(fresh).size(), files = files_here();
        for (size_t bytes = 0; bytes < length; ++bytes) {
            const FullDisk disk(bytes);
            QVERIFY(!io::save_level(fresh, path));
            QVERIFY(*io::load_level(path) == old);
            QCOMPARE(files_here(), files);
        }
        QVERIFY(io::save_level(fresh, path));
        QVERIFY(*io::load_level(path) == fresh);
    }

    void a_link_is_followed_a_device_stays_one_and_left_parts_are_swept_away() {
        const fs::path target = in_folder("target.json"), link = in_folder("link.json");
        QVERIFY(io::write_file(target, "old"));
        fs::create_symlink("target.json", link);
        QVERIFY(io::write_file(link, "new"));
        QVERIFY(fs::is_symlink(link));
        QCOMPARE(QString::fromStdString(*io::read_file(target)), QString("new"));
        const fs::path pipe = in_folder("null");
        if (::mknod(pipe.c_str(), S_IFCHR | 0666, makedev(1, 3)) == 0) { // as /dev/null; only root may
            QVERIFY(io::write_file(pipe, "gone"));
            QVERIFY(fs::is_character_file(pipe));
        }
        std::ofstream(target.string() + ".part999999999") << "half";
        QVERIFY(io::write_file(target, "newer"));
        QVERIFY(!fs::exists(target.string() + ".part999999999"));
    }

    void an_endless_device_is_too_large() {
        const auto text = io::read_file("/dev/zero");
        QVERIFY(!text);
        QCOMPARE(QString::fromStdString(text.error().code), QString("file.size"));
    }

    void reports_are_well_formed_whatever_names_hold() {
        const auto level = io::level_from_text(case_text("junit-fffe.level.json"), "level");
        QVERIFY(level);
        check::CheckOptions options;
        options.explain = false;
        const auto result = check::check_level({}, *level, options);
        QXmlStreamReader xml(QByteArray::fromStdString(io::junit_report(*level, result)));
        while (!xml.atEnd()) xml.readNext();
        QVERIFY2(!xml.hasError(), qPrintable(xml.errorString()));
        const std::string sarif = io::to_text(io::sarif_report(*level, result, "sp ace#%\xe9.level.json"));
        QVERIFY(io::parse_json(sarif, "sarif"));
        if (!result.claims.empty()) QVERIFY(sarif.find("sp%20ace%23%25%E9.level.json") != std::string::npos);
    }

    void materials_of_one_name_and_large_numbers_come_through_gltf() {
        Project project = io::new_project("x");
        project.materials = {{{"a"}, "Same", {255, 0, 0}, 0.9, {}}, {{"b"}, "Same", {0, 255, 0}, 0.9, {}}};
        test::LevelMaker maker;
        Level level = maker.level();
        Layer layer = *level.layers[0];
        for (const char* id : {"a", "b"}) {
            Brush brush;
            brush.material = {id};
            brush.place.at.x = id[0] * 3.0;
            layer.items.push_back(Item{{id}, {}, false, brush, {}});
        }
        layer.items.push_back(
            Item{{"e"}, {}, false, Element{"note", Vec3(0), 0, {{"far", "5000000000"}}}, {}});
        level.layers[0] = layer;
        const auto text = io::gltf_text(project, level, false);
        QVERIFY(text);
        const auto json = io::parse_json(*text, "gltf");
        QVERIFY(json);
        QCOMPARE((*json)["materials"].size(), size_t(2));
        QVERIFY(text->find("5000000000") != std::string::npos);
    }
};

RUBBLE_TEST(HostileTest)
#include "hostile_test.moc"
