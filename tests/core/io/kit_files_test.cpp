#include <QtTest/QtTest>

#include <QTemporaryDir>

#include "build/piece_body.h"
#include "core/damage.h"
#include "core/io/json_schema.h"
#include "core/random.h"
#include "edit/assemblies.h"
#include "edit/items.h"
#include "edit/kits.h"
#include "io/assembly_file.h"
#include "io/gltf_export.h"
#include "io/kit_bring_in.h"
#include "io/kit_file.h"
#include "io/model_file.h"
#include "io/model_writer.h"
#include "io/project_file.h"
#include "io/text_file.h"
#include "test_program.h"

using namespace rubble;
using test::Random;

namespace {

namespace fs = std::filesystem;

/// A closed box as somebody's model.
Model box_model(const Vec3& size) {
    Model model;
    model.nodes = {"box"};
    model.parts.emplace_back();
    ModelPart& part = model.parts[0];
    for (int corner = 0; corner < 8; ++corner)
        part.points.push_back({corner & 1 ? size.x : 0, corner & 2 ? size.y : 0, corner & 4 ? size.z : 0});
    part.triangles = {{0, 2, 1}, {1, 2, 3}, {4, 5, 6}, {5, 7, 6}, {0, 1, 4}, {1, 5, 4},
                      {2, 6, 3}, {3, 6, 7}, {0, 4, 2}, {2, 4, 6}, {1, 3, 5}, {3, 7, 5}};
    return model;
}

/// Writes a model as the file of a modelling program.
bool write_model(const fs::path& path, const Model& model) {
    const auto bytes = io::glb_of(Project{}, model, path.stem().string());
    fs::create_directories(path.parent_path());
    return bytes && io::write_file(path, *bytes);
}

std::vector<build::BroughtPiece> brought_from(const fs::path& path, const Vec3& module) {
    std::vector<build::BroughtPiece> files;
    files.push_back(build::brought(path.string(), io::load_model(path).value()));
    build::BringIn how;
    how.module_m = module;
    return build::pieces_of(files, how);
}

} // namespace

/// Kits and assemblies on their way into a project, in its files, and out of it.
class KitFilesTest : public QObject {
    Q_OBJECT

    QTemporaryDir temporary_;
    fs::path folder() const { return temporary_.path().toStdString(); }

    Kit brought_in(const char* name, const Vec3& size) {
        const fs::path file = folder() / "models" / (std::string(name) + ".glb");
        if (!write_model(file, box_model(size))) qFatal("could not write");
        Kit kit;
        kit.file = "kits/hall/kit.json", kit.name = "Hall";
        return io::brought_into(kit, brought_from(file, kit.module_m), folder()).value();
    }

private slots:
    /// All that was set of a piece stays when its file comes in again; what the file says is new.
    void a_file_brought_in_again_keeps_its_piece() {
        Kit kit = brought_in("crate", {1, 1, 1});
        Piece set = *kit.piece("crate");
        set.name = "Sea chest", set.seat = PieceSeat::free, set.overlap_m = 0.1, set.covers = true;
        set.values = {{"loot", "true"}};
        set.joints = {{{0, 0, 0}, ModuleSide::left, "hall", true}}, set.joints_by_hand = true;
        kit = edit::with_piece(kit, set);
        const fs::path file = folder() / "models" / "crate.glb";
        QVERIFY(write_model(file, box_model({2, 1, 1})));
        const auto again = io::brought_into(kit, brought_from(file, kit.module_m), folder());
        QVERIFY(again);
        QCOMPARE(again->pieces.size(), size_t(1));
        const Piece& now = *again->piece("crate");
        QCOMPARE(now.name, std::string("Sea chest"));
        QCOMPARE(now.seat, PieceSeat::free);
        QCOMPARE(now.values, set.values);
        QVERIFY(now.joints == set.joints && now.joints_by_hand && now.covers);
        QVERIFY(std::abs(now.body->matter_m3 - 2) < 1e-6);
    }

    void a_file_changed_on_disk_says_what_no_longer_fits() {
        const Kit kit = brought_in("block", {5, 5, 4});
        const fs::path file = folder() / "kits/hall/block.glb";
        QVERIFY(fs::exists(file));
        const auto same = io::with_file_again(kit, "block.glb", folder());
        QVERIFY(same);
        QVERIFY(same->unfit.empty());
        QVERIFY(write_model(file, box_model({10, 5, 4})));
        const auto longer = io::with_file_again(kit, "block.glb", folder());
        QVERIFY(longer);
        QCOMPARE(longer->unfit.size(), size_t(1));
        QVERIFY2(longer->unfit[0].find("2 x 1 x 1") != std::string::npos, longer->unfit[0].c_str());
        QCOMPARE(longer->kit.piece("block")->id, std::string("block"));
        // An object that is gone leaves its piece as it was.
        Piece part = *kit.piece("block");
        part.node = "lid";
        const auto gone = io::with_file_again(edit::with_piece(kit, part), "block.glb", folder());
        QVERIFY(gone);
        QVERIFY(!gone->unfit.empty() && gone->unfit[0].find("lid") != std::string::npos);
        QCOMPARE(gone->kit.piece("block")->body, part.body);
        QVERIFY(io::write_file(file, "glTF and then nothing that makes sense"));
        const auto damaged = io::with_file_again(kit, "block.glb", folder());
        QVERIFY(!damaged);
        QVERIFY(!damaged.error().message.empty());
    }

    void kits_are_written_as_they_were_read() {
        Kit kit = brought_in("slab", {5, 5, 0.2});
        Piece set = *kit.piece("slab");
        set.collision = {PieceCollisionKind::brushes, 0.3, {}, "col_*"};
        Brush ramp;
        ramp.size = {1, 2, 3};
        set.collision.items = ItemList{ItemPtr(Item{{"b1"}, {}, false, ramp, {}})};
        set.joints = {{{1, 0, 2}, ModuleSide::top, "shaft +", true},
                      {{0, 0, 0}, ModuleSide::near, "wall", false}};
        set.values = {{"dark", "true"}, {"depth", "2.5"}, {"label", "\"Bay 7\""}};
        set.overlap_m = 0.25, set.seat = PieceSeat::edge, set.covers = true, set.joints_by_hand = true;
        kit = edit::with_piece(kit, set);
        const std::string text = io::text_of(kit);
        const auto read = io::kit_from_text(text, "kit");
        QVERIFY(read);
        QCOMPARE(io::text_of(*read), text);
        QCOMPARE(test::schema_problems("kit.schema.json", {io::Json::parse(text)}), QStringList{""});
        QVERIFY(io::save_kit(kit, folder()));
        std::vector<Error> remarks;
        const auto loaded = io::load_kit(folder(), kit.file, remarks);
        QVERIFY(loaded && remarks.empty());
        QVERIFY(loaded->piece("slab")->body);
        QVERIFY(std::abs(loaded->piece("slab")->body->matter_m3 - 6) < 1e-6); // met as the brush
    }

    void damaged_kits_are_refused_or_sound() {
        Random random(1605);
        Kit kit = brought_in("post", {0.4, 0.4, 4});
        const std::string sound = io::text_of(kit);
        int refused = 0;
        for (int round = 0; round < test::rounds(2000); ++round) {
            const std::string text = test::damaged(sound, random);
            const auto read = io::kit_from_text(text, "kit");
            if (!read) {
                QVERIFY(!read.error().message.empty());
                ++refused;
                continue;
            }
            for (const auto& piece : read->pieces) {
                const auto count = modules_of(*read, piece->size_m);
                QVERIFY(count[0] >= 1 && count[1] >= 1 && count[2] >= 1);
            }
        }
        QVERIFY(refused > 0);
    }

    /// What a piece, an assembly and a place are to the game goes along in an export, the place's own
    /// counting before what is said of all.
    void values_for_the_game_are_exported() {
        Kit kit = brought_in("lamp", {0.3, 0.3, 2});
        Piece lamp = *kit.piece("lamp");
        lamp.values = {{"lumen", "800"}, {"fixed", "true"}};
        kit = edit::with_piece(kit, lamp);
        Project project = edit::with_kit(io::new_project("Values"), kit);
        PlacedPiece placed;
        placed.kit_file = kit.file, placed.piece_id = "lamp", placed.values = {{"lumen", "1200"}};
        Assembly bay;
        bay.file = "bay", bay.name = "Bay", bay.values = {{"zone", "\"cold\""}};
        bay.items = ItemList{ItemPtr(Item{{"lamp"}, {}, false, placed, {}})};
        project = edit::with_assembly(project, bay);
        Level level;
        Layer layer;
        layer.id = {"l"};
        level.layers.push_back(std::move(layer));
        ItemId id;
        level = edit::with_placed(project, level, 0, "bay", {3, 4, 0}, 90, id);
        Item item = *find_item(level, id);
        std::get<PlacedAssembly>(item.body).values = {{"door", "false"}};
        level = edit::with_changed(level, item);
        const auto text = io::gltf_text(project, level, false);
        QVERIFY(text);
        const io::Json gltf = io::Json::parse(*text);
        int found = 0;
        for (const auto& node : gltf["nodes"]) {
            if (!node.contains("extras")) continue;
            const auto& extras = node["extras"];
            if (extras.contains("piece")) {
                QCOMPARE(extras["lumen"].get<int>(), 1200);
                QVERIFY(extras["fixed"].get<bool>());
                ++found;
            }
            if (extras.contains("assembly")) {
                QCOMPARE(extras["zone"].get<std::string>(), std::string("cold"));
                QVERIFY(!extras["door"].get<bool>());
                QCOMPARE(node["translation"], io::Json::parse("[3.0, 0.0, -4.0]"));
                ++found;
            }
        }
        QCOMPARE(found, 2);
        // And are kept in the files of both.
        const auto read = io::assembly_from_text(io::text_of(bay), "bay");
        QVERIFY(read);
        QCOMPARE(read->values, bay.values);
    }
};

RUBBLE_TEST(KitFilesTest)
#include "kit_files_test.moc"
