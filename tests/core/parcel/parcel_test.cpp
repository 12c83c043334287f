#include <QtTest/QtTest>

#include <fstream>

#include "build/solid_builder.h"
#include "core/level_maker.h"
#include "core/random.h"
#include "edit/items.h"
#include "io/level_file.h"
#include "io/project_file.h"
#include "parcel/parcel.h"
#include "parcel/plan.h"
#include "parcel/tables.h"
#include "test_program.h"

using namespace rubble;
using test::LevelMaker;
using test::Random;

namespace {

namespace fs = std::filesystem;

parcel::ParcelKind kind(const char* key) { return *parcel::parcel_kind({}, key); }

/// A table as RFC 4180 says: fields by commas, quoted ones with doubled quotes, lines ended by CRLF. Empty
/// where it is none.
std::vector<std::vector<std::string>> table_of(const std::string& csv) {
    std::vector<std::vector<std::string>> out;
    for (size_t at = 0; at < csv.size();) {
        std::vector<std::string> row;
        for (bool more = true; more;) {
            std::string field;
            if (csv[at] == '"') {
                for (++at;; ++at) {
                    if (at >= csv.size()) return {};
                    if (csv[at] == '"' && csv[at + 1] == '"')
                        ++at;
                    else if (csv[at] == '"')
                        break;
                    field += csv[at];
                }
                ++at;
            } else {
                while (at < csv.size() && csv[at] != ',' && csv[at] != '\r') {
                    if (csv[at] == '"' || csv[at] == '\n') return {};
                    field += csv[at++];
                }
            }
            row.push_back(std::move(field));
            if (at + 1 < csv.size() && csv[at] == '\r' && csv[at + 1] == '\n')
                at += 2, more = false;
            else if (at < csv.size() && csv[at] == ',')
                ++at;
            else
                return {};
        }
        out.push_back(std::move(row));
    }
    return out;
}

/// What a program says of a file; empty where it is content.
QString refused(const QString& program, const QStringList& words) {
    QProcess process;
    process.start(program, words);
    if (!process.waitForFinished(120000)) return program + " did not run";
    return process.exitCode() == 0
               ? QString()
               : QString::fromUtf8(process.readAllStandardError() + process.readAllStandardOutput());
}

std::vector<std::string> problems(const parcel::Files& files) {
    std::vector<std::string> out;
    const QTemporaryDir folder;
    for (const auto& [path, bytes] : files) {
        const QString place =
            folder.filePath("file" + QString::fromStdString(fs::path(path).extension().string()));
        QFile file(place);
        if (!file.open(QIODevice::WriteOnly)) return {"no folder"};
        file.write(bytes.data(), qint64(bytes.size()));
        file.close();
        QString said;
        if (place.endsWith(".pdf")) said = refused("qpdf", {"--check", place});
        if (place.endsWith(".svg") || place.endsWith(".html"))
            said = refused("xmllint", {"--noout", "--nonet", place});
        if (place.endsWith(".csv") && path.find("tiles/") == std::string::npos) {
            const auto table = table_of(bytes);
            bool even = !table.empty();
            for (const auto& row : table) even &= row.size() == table[0].size();
            if (!even) said = "is no table";
        }
        if (place.endsWith(".json") && !io::parse_json(bytes, path)) said = "is no JSON";
        if (place.endsWith(".png") && !bytes.starts_with("\x89PNG")) said = "is no PNG";
        if (!said.isEmpty()) out.push_back(path + ": " + said.toStdString());
    }
    return out;
}

io::LoadedLevel demo(const char* name) {
    auto loaded = io::load_level_with_project(
        std::string(RUBBLE_SOURCE_DIR "/demo-data/packing-hall/levels/") + name + ".level.json");
    if (!loaded) qFatal("%s", loaded.error().text().c_str());
    return *loaded;
}

check::CheckResult checked(const io::LoadedLevel& loaded) {
    check::CheckOptions options;
    options.explain = options.mends = false;
    return check::check_level(loaded.project, loaded.level, options);
}

} // namespace

/// What others get of a level.
class ParcelTest : public QObject {
    Q_OBJECT

private slots:
    void parcels_of_the_demo_are_sound() {
        // The sanitizers see one of each frame.
        QStringList names{"packing-hall", "low-tide-rooftops", "pallet-store"};
        if (!qEnvironmentVariableIsSet("RUBBLE_QUICK")) names << "cold-store";
        for (const QString& name : names) {
            const io::LoadedLevel loaded = demo(qPrintable(name));
            const check::CheckResult result = checked(loaded);
            for (const parcel::ParcelKind& receiver : parcel::parcel_kinds({})) {
                const auto files = parcel::parcel_of(loaded.project, loaded.level, result, receiver);
                QVERIFY(files);
                QVERIFY(files->contains("parcel.json") && files->size() > 3);
                const auto wrong = problems(*files);
                QVERIFY2(wrong.empty(), wrong.empty() ? "" : wrong[0].c_str());
                // The same level gives the same bytes.
                const auto again = parcel::parcel_of(loaded.project, loaded.level, result, receiver);
                QVERIFY(again && again->size() == files->size());
                QStringList differ;
                for (const auto& [path, bytes] : *again)
                    if (!files->contains(path) || files->at(path) != bytes)
                        differ << QString::fromStdString(path);
                QVERIFY2(differ.isEmpty(), qPrintable(differ.join(' ')));
            }
        }
    }

    void a_project_has_parcels_of_its_own() {
        io::LoadedLevel loaded = demo("packing-hall");
        loaded.project.parcels = {{"sound", "Sound designer", {"tables", "plans", "no such part"}},
                                  {"tester", "", {"page"}}};
        const auto kinds = parcel::parcel_kinds(loaded.project);
        QCOMPARE(kinds.size(), size_t(4));
        QCOMPARE(kinds[3].name, std::string("Sound designer"));
        QCOMPARE(kinds[3].parts.size(), size_t(2));
        QCOMPARE(kinds[2].parts.size(), size_t(1)); // the usual one, as the project changed it
        const auto read = io::project_from_text(io::text_of(loaded.project), "project");
        QVERIFY(read && read->parcels == loaded.project.parcels);
        const check::CheckResult result = checked(loaded);
        const auto files = parcel::parcel_of(loaded.project, loaded.level, result, kinds[3]);
        QVERIFY(files && files->contains("elements.csv") && files->contains("plans.pdf"));
        QVERIFY(!files->contains("index.html"));
    }

    void pictures_of_places_are_in_the_testers_page() {
        const io::LoadedLevel loaded = demo("pallet-store");
        const check::CheckResult result = checked(loaded);
        const std::string png("\x89PNG\r\n\x1a\n0", 9);
        const auto files =
            parcel::parcel_of(loaded.project, loaded.level, result, kind("tester"), {}, {}, {{"Start", png}});
        QVERIFY(files);
        QVERIFY(files->at("index.html").find("data:image/png;base64,iVBORw0KGgow\"") != std::string::npos);
        QVERIFY(files->at("report.pdf").starts_with("%PDF"));
        const auto wrong = problems(*files);
        QVERIFY2(wrong.empty(), wrong.empty() ? "" : wrong[0].c_str());
    }

    void a_zip_and_a_folder_hold_the_same_and_tell_what_changed() {
        const io::LoadedLevel loaded = demo("packing-hall");
        const check::CheckResult result = checked(loaded);
        const auto files = parcel::parcel_of(loaded.project, loaded.level, result, kind("programmer"));
        QVERIFY(files);
        const QTemporaryDir folder;
        const fs::path zip = folder.filePath("parcel.zip").toStdString(),
                       plain = folder.filePath("parcel").toStdString();
        for (const fs::path& target : {zip, plain}) {
            QVERIFY(!parcel::changes_since(*files, target));
            QVERIFY(parcel::write_parcel(*files, target));
            const auto none = parcel::changes_since(*files, target);
            QVERIFY(none && none->empty());
        }
        QCOMPARE(refused("python3",
                         {"-c", R"(
import sys, zipfile, pathlib
zip = zipfile.ZipFile(sys.argv[1]); root = pathlib.Path(sys.argv[2])
assert zip.testzip() is None
names = sorted(p.relative_to(root).as_posix() for p in root.rglob('*') if p.is_file())
assert sorted(zip.namelist()) == names, names
for name in names: assert zip.read(name) == (root / name).read_bytes(), name
)",
                          QString::fromStdString(zip.string()), QString::fromStdString(plain.string())}),
                 QString());
        // Another element, another layer: only what speaks of it differs.
        io::LoadedLevel changed = loaded;
        Item note{{"note"}, "Note, with \"quotes\"", false, Element{"place", {0, 0, 1}, 0, {}}, {}};
        changed.level = edit::with_item(changed.level, 0, note);
        const auto after = parcel::parcel_of(changed.project, changed.level, result, kind("programmer"));
        QVERIFY(after);
        std::ofstream(plain / "mine.txt") << "kept";
        for (const fs::path& target : {zip, plain}) {
            const auto changes = parcel::changes_since(*after, target);
            QVERIFY(changes && changes->added.empty() && changes->gone.empty());
            QVERIFY(std::count(changes->changed.begin(), changes->changed.end(), "elements.csv") == 1);
            QVERIFY(std::count(changes->changed.begin(), changes->changed.end(), "names.csv") == 1);
            QVERIFY(parcel::write_parcel(*after, target));
        }
        // Files of the parcel before that are in it no more go, others stay.
        parcel::Files fewer = *after;
        fewer.erase("names.csv");
        QVERIFY(parcel::write_parcel(fewer, plain));
        QVERIFY(fs::exists(plain / "mine.txt") && !fs::exists(plain / "names.csv"));
        // A list that names what is outside touches nothing there.
        const fs::path outside = folder.filePath("outside.txt").toStdString();
        std::ofstream(outside) << "kept";
        std::ofstream(plain / "parcel.json") << R"({"files":[{"path":"../outside.txt","crc32":"0"}]})";
        QVERIFY(parcel::write_parcel(fewer, plain));
        QVERIFY(fs::exists(outside));
    }

    void ids_and_names_stay_whatever_else_changes() {
        Random random(3);
        const io::LoadedLevel loaded = demo("packing-hall");
        Level level = loaded.level;
        auto rows = [](const Level& of) {
            std::map<std::string, std::vector<std::string>> out;
            for (const auto& row : table_of(parcel::names_csv(of))) out[row[0]] = row;
            return out;
        };
        for (int round = 0; round < test::rounds(100); ++round) {
            std::vector<ItemId> ids;
            for_each_item(level, [&](const Item& item, const Layer&) { ids.push_back(item.id); });
            const ItemId id = ids[size_t(random.whole(0, int(ids.size()) - 1))];
            const auto before = rows(level);
            // Only what was edited, and what it holds, may differ.
            std::set<std::string> held{id.value};
            const std::function<void(const Item&)> hold = [&](const Item& item) {
                held.insert(item.id.value);
                if (const ItemList* members = members_of(item))
                    for (const auto& member : *members) hold(*member);
            };
            hold(*find_item(level, id));
            const std::vector<ItemId> one{id};
            level = random.chance(0.3) ? edit::without(level, one)
                    : random.chance(0.5)
                        ? edit::moved(level, one, {1, 0, 0})
                        : edit::with_item(level, 0, edit::with_fresh_ids(level, *find_item(level, id)));
            const auto after = rows(level);
            for (const auto& [key, row] : before) {
                if (!after.contains(key))
                    QVERIFY2(held.contains(key), key.c_str());
                else if (!held.contains(key))
                    QCOMPARE(after.at(key), row);
            }
        }
    }

    void plans_show_what_is_cut_and_what_is_looked_down_on() {
        LevelMaker maker;
        maker.box({0, 0, -1}, {10, 8, 1});  // the floor
        maker.box({5, 0, 0}, {0.5, 8, 3});  // a wall
        maker.box({-2, 0, 0}, {1, 1, 0.5}); // a block to step on
        maker.box({0, 0, 4}, {10, 8, 0.3}); // a roof, which a plan does not see
        maker.start({-4, 0, 0});
        Level level = maker.level();
        const auto world = motion::world_of(build::build_solid(level));
        const auto plans = parcel::plans_of(level, world);
        QCOMPARE(plans.size(), size_t(1));
        const auto area = [](const std::vector<parcel::Plan::Area>& areas) {
            double sum = 0;
            for (const auto& one : areas) sum += geometry::area_of(one.corners);
            return sum;
        };
        QVERIFY(std::abs(area(plans[0].cut) - 0.5 * 8) < 1e-6);
        QVERIFY(std::abs(area(plans[0].floors) - (80 + 1)) < 1e-6);
        QCOMPARE(plans[0].marks.size(), size_t(1));
        QVERIFY(std::abs(plans[0].box.high.x - 5.25) < 1e-6);
    }

    void what_is_open_is_said() {
        LevelMaker maker;
        maker.box({0, 0, -1}, {4, 4, 1});
        const ItemId start = maker.start({0, 0, 0}), goal = maker.goal({50, 0, 0});
        maker.claim(Claim::Kind::reaches, start, goal);
        const Level level = maker.level();
        const parcel::Open open = parcel::open_in(level, check::check_level(io::new_project("T"), level));
        QVERIFY(!open.blockers.empty());
        QCOMPARE(open.failing_claims, std::vector<std::string>{"c1"});
    }

    void a_parcel_is_stopped_when_nobody_wants_it() {
        const io::LoadedLevel loaded = demo("cold-store");
        const check::CheckResult result = checked(loaded);
        const Cancel cancel = Cancel::create();
        cancel.request();
        const auto files = parcel::parcel_of(loaded.project, loaded.level, result, kind("artist"), cancel);
        QVERIFY(!files && files.error().code == "cancelled");
    }
};

RUBBLE_TEST(ParcelTest)
#include "parcel_test.moc"
