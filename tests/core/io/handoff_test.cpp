#include <QtTest/QtTest>

#include <csignal>
#include <set>

#include <QXmlStreamReader>

#include <sys/resource.h>

#include "build/surface_builder.h"
#include "check/excuses.h"
#include "core/check/random_level.h"
#include "core/io/json_schema.h"
#include "edit/items.h"
#include "io/cast_file.h"
#include "io/ci_reports.h"
#include "io/export_parts.h"
#include "io/gltf_export.h"
#include "io/level_file.h"
#include "io/project_file.h"
#include "io/recording_file.h"
#include "io/report.h"
#include "io/text_file.h"
#include "level/element_values.h"
#include "level/order.h"
#include "level/shapes/shape_kind.h"
#include "test_program.h"

using namespace rubble;
using test::LevelMaker;
using test::Random;
using test::schema_problems;

namespace {

const std::filesystem::path k_demo = RUBBLE_SOURCE_DIR "/demo-data/packing-hall";

io::Json json_of(const std::filesystem::path& path) {
    const auto text = io::read_file(path);
    return io::parse_json(*text, path.string()).value();
}

/// The JSON of a .gltf, with its buffer as bytes.
io::Json gltf_of(const Level& level) {
    const auto text = io::gltf_text(io::new_project("Test"), level, false);
    return io::parse_json(*text, "gltf").value();
}

} // namespace

/// What leaves the program: files by their schemas, reports, exports.
class HandoffTest : public QObject {
    Q_OBJECT

private slots:
    /// Among them that a deck is reached by a leap although behind it a door leads out onto a wide hillside,
    /// so that very many places of that ledge are nearer to all else, behind the wall.
    void every_claim_of_the_demo_holds() {
        const auto loaded = io::load_level_with_project(k_demo / "levels" / "packing-hall.level.json");
        QVERIFY(loaded);
        check::CheckOptions options;
        options.explain = false;
        const auto result = check::check_level(loaded->project, loaded->level, options);
        QVERIFY(result.claims.size() >= 8);
        for (const auto& claim : result.claims)
            QVERIFY2(claim.state == check::ClaimState::holds, in_english(claim.reason, Level{}).c_str());
    }

    void build_servers_are_told_what_fails() {
        auto loaded = io::load_level_with_project(k_demo / "levels/packing-hall-first-try.level.json");
        Level level = loaded->level;
        level.claims[0].name = "Start \"reaches\" <Office> & back";
        const auto result = check::check_level(loaded->project, level);
        size_t failing = 0;
        for (const auto& claim : result.claims) failing += claim.state != check::ClaimState::holds;
        QVERIFY(failing > 0 && failing < result.claims.size());

        const io::Json sarif = io::sarif_report(level, result, "first-try.level.json");
        QCOMPARE(sarif["version"].get<std::string>(), std::string("2.1.0"));
        const io::Json& run = sarif["runs"][0];
        QCOMPARE(run["results"].size(), failing + result.findings.size());
        std::set<std::string> rules;
        for (const auto& rule : run["tool"]["driver"]["rules"]) rules.insert(rule["id"]);
        for (const auto& one : run["results"]) {
            QVERIFY(rules.contains(one["ruleId"]));
            QVERIFY(std::set<std::string>({"error", "warning", "note"}).contains(one["level"]));
            QCOMPARE(one["locations"][0]["physicalLocation"]["artifactLocation"]["uri"].get<std::string>(),
                     std::string("first-try.level.json"));
        }

        // What is excused is told with why, and read back from the level's file.
        QVERIFY(!result.findings.empty());
        Level excused = level;
        excused.excuses.push_back(check::excuse_of(result.findings[0], "as in the drawing"));
        const auto read = io::level_from_text(io::text_of(excused), "excused");
        QVERIFY(read && read->excuses == excused.excuses);
        const auto again = check::check_level(loaded->project, *read);
        const io::Json told = io::sarif_report(*read, again, "first-try.level.json");
        QCOMPARE(again.excused.size(), size_t(1));
        QCOMPARE(told["runs"][0]["results"].size(), failing + result.findings.size());
        QCOMPARE(told["runs"][0]["results"].back()["suppressions"][0]["justification"].get<std::string>(),
                 std::string("as in the drawing"));

        QXmlStreamReader xml(QString::fromStdString(io::junit_report(level, result)));
        size_t cases = 0, failures = 0, counted = 0;
        bool named = false;
        while (!xml.atEnd()) {
            if (xml.readNext() != QXmlStreamReader::StartElement) continue;
            if (xml.name() == u"testsuite") counted = xml.attributes().value("failures").toULongLong();
            cases += xml.name() == u"testcase";
            failures += xml.name() == u"failure";
            named |= xml.attributes().value("name") == QString::fromStdString(level.claims[0].name);
        }
        QVERIFY2(!xml.hasError(), qPrintable(xml.errorString()));
        QCOMPARE(cases, level.claims.size() + 1);
        QCOMPARE(failures, failing + 1); // and the blocker
        QCOMPARE(counted, failures);
        QVERIFY(named);
    }

    void the_demo_follows_the_schemas() {
        QCOMPARE(schema_problems("project.schema.json", {json_of(k_demo / "project.json")}), QStringList{""});
        std::vector<io::Json> levels;
        for (const auto& file : io::level_files(k_demo)) levels.push_back(json_of(file));
        QCOMPARE(schema_problems("level.schema.json", levels), QStringList(qsizetype(levels.size()), ""));
        QVERIFY(levels.size() >= 2);
        std::vector<io::Json> casts;
        for (const auto& file : io::cast_rules_files(k_demo)) casts.push_back(json_of(file));
        QVERIFY(!casts.empty());
        QCOMPARE(schema_problems("cast.schema.json", casts), QStringList(qsizetype(casts.size()), ""));
    }

    /// What is a row of a table here is a choice there.
    void the_schema_offers_what_the_tables_hold() {
        const io::Json level = json_of(RUBBLE_SOURCE_DIR "/docs/formats/level.schema.json");
        std::set<std::string> shapes, claims;
        for (const ShapeKind& kind : shape_kinds()) shapes.insert(kind.key);
        for (const ClaimKind& kind : claim_kinds) claims.insert(kind.key);
        const auto offered = [](const io::Json& list) {
            return std::set<std::string>(list.begin(), list.end());
        };
        std::vector<std::set<std::string>> choices;
        const std::function<void(const io::Json&)> look = [&](const io::Json& part) {
            if (part.is_object() && part.contains("enum") && part["enum"][0].is_string())
                choices.push_back(offered(part["enum"]));
            if (part.is_structured())
                for (const io::Json& inner : part) look(inner);
        };
        look(level);
        QCOMPARE(std::count(choices.begin(), choices.end(), shapes), 1);
        QCOMPARE(std::count(choices.begin(), choices.end(), claims), 1);
    }

    void random_levels_follow_the_schema_and_damaged_ones_do_not() {
        Random random(901);
        std::vector<io::Json> sound, damaged;
        for (int n = 0; n < test::rounds(20); ++n) {
            const io::Json good = io::parse_json(io::text_of(test::random_level(random)), "r").value();
            sound.push_back(good);
            damaged.insert(damaged.end(), 3, good);
            damaged[damaged.size() - 3]["layers"][0]["items"][0]["size"] = io::Json::array({1, 2});
            damaged[damaged.size() - 2]["format"] = "one";
            damaged[damaged.size() - 1].erase("format");
        }
        QCOMPARE(schema_problems("level.schema.json", sound), QStringList(qsizetype(sound.size()), ""));
        const QStringList problems = schema_problems("level.schema.json", damaged);
        QCOMPARE(problems.size(), qsizetype(damaged.size()));
        for (const QString& problem : problems) QVERIFY(!problem.isEmpty());
    }

    void a_report_follows_its_schema_and_its_witnesses_replay() {
        std::vector<io::Json> reports;
        for (const auto& file : io::level_files(k_demo)) {
            const auto loaded = io::load_level_with_project(file);
            QVERIFY(loaded);
            check::CheckOptions options;
            options.all_spans = true;
            const auto result = check::check_level(loaded->project, loaded->level, options);
            const io::Json report = io::check_report(loaded->level, result);
            reports.push_back(report);
            const Character c = character_of(loaded->project, loaded->level);
            int replayed = 0;
            for (const auto& place : report["places"]) {
                if (!place.contains("witness")) continue;
                const auto recording = io::recording_from_json(place["witness"], "report");
                QVERIFY(recording);
                const auto end = motion::replayed(*result.world, c, *recording);
                const Item* item = find_item(loaded->level, {place["item"].get<std::string>()});
                QVERIFY(check::has_thing(*result.world, end, c, item->element()->at));
                ++replayed;
            }
            QVERIFY(replayed >= 2); // a start and a goal at least
        }
        QCOMPARE(schema_problems("check.schema.json", reports), QStringList(qsizetype(reports.size()), ""));
    }

    void mends_in_a_report_turn_their_claim_when_applied_to_the_file() {
        const auto loaded = io::load_level_with_project(k_demo / "levels/packing-hall-first-try.level.json");
        QVERIFY(loaded);
        const io::Json report =
            io::check_report(loaded->level, check::check_level(loaded->project, loaded->level));
        int mends = 0;
        for (const auto& miss : report["near_misses"])
            for (const auto& mend : miss["mends"]) {
                // As a script would: the edits put into the file's own JSON.
                io::Json file = io::parse_json(io::text_of(loaded->level), "level").value();
                for (const auto& edit : mend["edits"]) {
                    if (edit.contains("add")) {
                        file["layers"].back()["items"].push_back(edit["add"]);
                        continue;
                    }
                    for (auto& layer : file["layers"])
                        for (auto& item : layer["items"])
                            if (item["id"] == edit["item"])
                                for (const auto& [key, value] : edit["set"].items()) item[key] = value;
                }
                const auto mended = io::level_from_text(file.dump(), "mended");
                QVERIFY(mended);
                build::SolidBuilder builder;
                QCOMPARE(check::tried(loaded->project, *mended, builder, {miss["from"].get<std::string>()},
                                      {miss["to"].get<std::string>()}, {})
                             .reached,
                         check::Reached::yes);
                ++mends;
            }
        QVERIFY(mends > 0);
    }

    void a_write_that_fails_at_any_byte_leaves_the_old_file() {
        QTemporaryDir folder;
        const std::filesystem::path file = folder.filePath("a.json").toStdString();
        const std::string before(700, 'o'), after(5000, 'n');
        QVERIFY(io::write_file(file, before));
        signal(SIGXFSZ, SIG_IGN);
        rlimit usual{};
        getrlimit(RLIMIT_FSIZE, &usual);
        for (const rlim_t most : {0, 1, 699, 1000, 4096, 4999}) {
            rlimit small = usual;
            small.rlim_cur = most;
            setrlimit(RLIMIT_FSIZE, &small);
            const auto written = io::write_file(file, after);
            setrlimit(RLIMIT_FSIZE, &usual);
            QVERIFY2(!written, qPrintable(QString::number(most)));
            QCOMPARE(written.error().code, std::string("file.write"));
            QCOMPARE(*io::read_file(file), before);
        }
        QVERIFY(io::write_file(file, after));
        QCOMPARE(*io::read_file(file), after);
        QCOMPARE(QDir(folder.path()).entryList(QDir::Files).size(), 1); // nothing is left beside it
    }

    void projects_with_mistakes_are_refused_with_their_place() {
        const std::string good = io::text_of(io::new_project("Test"));
        QVERIFY(io::project_from_text(good, "p"));
        const std::pair<const char*, io::Json> damages[] = {
            {"/format", 99},    {"/format", "one"},      {"/grid_m", -1}, {"/grid_m", "wide"},
            {"/characters", 7}, {"/materials", "steel"}, {"/name", 3.5},  {"/turn_step_deg", io::Json()},
        };
        for (const auto& [pointer, value] : damages) {
            io::Json json = io::parse_json(good, "p").value();
            const io::Json::json_pointer at{std::string(pointer)};
            if (!json.contains(at)) continue;
            json[at] = value;
            const auto read = io::project_from_text(json.dump(), "project.json");
            QVERIFY2(!read, pointer);
            QVERIFY(read.error().text().find("project.json") != std::string::npos);
        }
        QVERIFY(!io::project_from_text("", "p") && !io::project_from_text("[", "p"));
    }

    void exported_parts_hold_every_face_once() {
        Random random(902);
        for (int n = 0; n < test::rounds(10); ++n) {
            const Level level = test::random_level(random);
            const auto facts = build::facts_of(build::surface_of(build::build_solid(level)));
            double area = 0, collision = 0;
            size_t elements = 0;
            auto area_of = [](const Vec3& a, const Vec3& b, const Vec3& c) {
                return glm::length(glm::cross(b - a, c - a)) / 2;
            };
            for (const auto& part : io::export_parts(io::new_project("Test"), level)) {
                for (const auto& mesh : part.meshes) {
                    QCOMPARE(mesh.points.size(), mesh.normals.size());
                    for (const auto& [a, b, c] : mesh.triangles) {
                        area += area_of(mesh.points[a], mesh.points[b], mesh.points[c]);
                        const Vec3 normal =
                            glm::cross(mesh.points[b] - mesh.points[a], mesh.points[c] - mesh.points[a]);
                        // Along an edge, corners rounded to a micrometre may leave a sliver that looks
                        // inward.
                        const double longest = std::max(glm::length(mesh.points[b] - mesh.points[a]),
                                                        glm::length(mesh.points[c] - mesh.points[a]));
                        QVERIFY(glm::dot(normal, mesh.normals[a]) > -2e-6 * longest);
                    }
                }
                for (const auto& [a, b, c] : part.collision_triangles)
                    collision +=
                        area_of(part.collision_points[a], part.collision_points[b], part.collision_points[c]);
                elements += part.elements.size();
            }
            QVERIFY2(std::abs(area - facts.area_m2) < 1e-4 * facts.area_m2,
                     qPrintable(QString::number(area)));
            QVERIFY(collision > 0);
            QCOMPARE(elements, elements_of(level).size());
        }
    }

    void values_of_elements_are_exported_beside_what_they_are() {
        LevelMaker maker;
        maker.box({0, 0, -1}, {8, 8, 1});
        Element key{"key", {1, 2, 0}, 0, {}};
        maker.element_with(
            with_value(with_value(std::move(key), "kind", std::string("brass")), "kept", true));
        const io::Json gltf = gltf_of(maker.level());
        const auto node = std::find_if(gltf["nodes"].begin(), gltf["nodes"].end(), [](const auto& one) {
            return one.contains("extras") && one["extras"].contains("values");
        });
        QVERIFY(node != gltf["nodes"].end());
        const io::Json& extras = (*node)["extras"];
        QCOMPARE(extras["kind"].get<std::string>(), std::string("key"));
        QCOMPARE(extras["values"]["kind"].get<std::string>(), std::string("brass"));
        QVERIFY(extras["kept"].get<bool>());
    }

    void an_export_stands_upright_with_its_elements_as_nodes() {
        LevelMaker maker;
        maker.box({10, 20, 0}, {2, 4, 6});
        maker.start({1, 2, 3});
        const io::Json gltf = gltf_of(maker.level());
        QCOMPARE(gltf["asset"]["version"].get<std::string>(), std::string("2.0"));
        bool found = false;
        for (const auto& node : gltf["nodes"]) {
            if (!node.contains("extras") || !node["extras"].contains("kind")) continue;
            QCOMPARE(node["extras"]["kind"].get<std::string>(), std::string("start"));
            // z up, y away becomes y up, -z away.
            QCOMPARE(node["translation"], io::Json::array({1.0, 3.0, -2.0}));
            QVERIFY(!node.contains("mesh"));
            found = true;
        }
        QVERIFY(found);
        bool tall = false;
        for (const auto& accessor : gltf["accessors"])
            if (accessor["type"] == "VEC3" && accessor.contains("max"))
                tall |= accessor["max"][1] == 6.0 && accessor["min"][1] == 0.0 && accessor["max"][2] == -18.0;
        QVERIFY(tall);
    }

    void an_exports_names_and_order_stay_when_something_is_added() {
        LevelMaker maker;
        maker.box({0, 0, 0}, {2, 2, 2});
        maker.start({5, 5, 0});
        auto names = [](const io::Json& gltf) {
            std::vector<std::string> out;
            for (const auto& node : gltf["nodes"]) out.push_back(node["name"]);
            return out;
        };
        const auto before = names(gltf_of(maker.level()));
        maker.goal({-5, 5, 0});
        auto after = names(gltf_of(maker.level()));
        QCOMPARE(after.size(), before.size() + 1);
        std::set<std::string> kept(after.begin(), after.end());
        for (const std::string& name : before) QVERIFY2(kept.contains(name), name.c_str());
        QCOMPARE(kept.size(), after.size()); // no name twice
    }
};

RUBBLE_TEST(HandoffTest)
#include "handoff_test.moc"
