#include <QtTest/QtTest>

#include <cstring>

#include "core/random.h"
#include "io/model_file.h"
#include "io/model_writer.h"
#include "io/text_file.h"
#include "test_program.h"

using namespace rubble;
using test::Random;

namespace {

/// A box of 1 × 2 × 3 as glTF text with its buffer within: points as floats, indices as 16 bits.
std::string base64(const std::string& bytes) {
    return QByteArray::fromStdString(bytes).toBase64().toStdString();
}

template <class T> void put(std::string& to, T value) {
    char bytes[sizeof value];
    std::memcpy(bytes, &value, sizeof value);
    to.append(bytes, sizeof value);
}

std::string box_bytes() {
    std::string out;
    for (int i = 0; i < 8; ++i)
        put(out, float(i & 1 ? 1 : 0)), put(out, float(i & 2 ? 2 : 0)), put(out, float(i & 4 ? 3 : 0));
    for (const auto& [a, b, c, d] : {std::array<uint16_t, 4>{0, 2, 3, 1},
                                     {4, 5, 7, 6},
                                     {0, 1, 5, 4},
                                     {2, 6, 7, 3},
                                     {0, 4, 6, 2},
                                     {1, 3, 7, 5}})
        for (const uint16_t i : {a, b, c, a, c, d}) put(out, i);
    return out; // 96 bytes of points, 72 of indices
}

/// `nodes`, and what else the file has before its end.
std::string gltf(const std::string& nodes, const std::string& more = {}, const std::string& primitive = {}) {
    return R"({"asset":{"version":"2.0"},"scene":0,"scenes":[{"nodes":[0]}],"nodes":)" + nodes +
           R"(,"meshes":[{"name":"box","primitives":[)" +
           (primitive.empty() ? R"({"attributes":{"POSITION":0},"indices":1})" : primitive) +
           R"(]}],"accessors":[{"bufferView":0,"componentType":5126,"count":8,"type":"VEC3","min":[0,0,0],"max":[1,2,3]},)"
           R"({"bufferView":1,"componentType":5123,"count":36,"type":"SCALAR"}],)"
           R"("bufferViews":[{"buffer":0,"byteLength":96},{"buffer":0,"byteOffset":96,"byteLength":72}],)"
           R"("buffers":[{"byteLength":168,"uri":"data:application/octet-stream;base64,)" +
           base64(box_bytes()) + R"("}])" + more + "}";
}

} // namespace

class ModelFilesTest : public QObject {
    Q_OBJECT

    QTemporaryDir folder_;
    Result<Model> read(const std::string& text, const char* name = "model.gltf") {
        const std::string path = (folder_.path() + "/" + name).toStdString();
        if (!io::write_file(path, text)) return fail("test", path, "could not be written");
        return io::load_model(path);
    }
    std::string refusal(const std::string& text, const char* name = "model.gltf") {
        const auto model = read(text, name);
        return model ? "it was read" : model.error().message;
    }

private slots:
    void a_model_measures_what_its_file_says() {
        const auto model = read(gltf(R"([{"mesh":0}])"));
        QVERIFY2(model, model ? "" : model.error().text().c_str());
        const ModelNumbers numbers = numbers_of(*model);
        QCOMPARE(numbers.triangles, size_t(12));
        QCOMPARE(numbers.points, size_t(8));
        QCOMPARE(numbers.box.high, Vec3(1, 2, 3));
        QVERIFY(std::abs(numbers.area_m2 - 22) < 1e-12 && std::abs(numbers.volume_m3 - 6) < 1e-12);
        QCOMPARE(model->nodes, std::vector<std::string>{"box"});
    }

    void nodes_hold_each_other_and_use_a_mesh_often() {
        // Turned by a quarter about y, moved, made twice as large; once more mirrored.
        const auto model = read(gltf(
            R"([{"children":[1,2],"translation":[10,0,0]},)"
            R"({"name":"one","mesh":0,"scale":[2,2,2],"rotation":[0,0.7071067811865476,0,0.7071067811865476]},)"
            R"({"name":"two","mesh":0,"matrix":[-1,0,0,0,0,1,0,0,0,0,1,0,0,0,0,1]}])"));
        QVERIFY2(model, model ? "" : model.error().text().c_str());
        const ModelNumbers numbers = numbers_of(*model);
        QCOMPARE(numbers.triangles, size_t(24));
        QCOMPARE(model->scene_nodes, 3);
        QVERIFY(std::abs(numbers.volume_m3 - (6 + 48)) < 1e-6); // mirrored, its faces look outwards still
        QVERIFY(glm::length(numbers.box.low - Vec3(9, 0, -2)) < 1e-6);
        QVERIFY(glm::length(numbers.box.high - Vec3(16, 4, 3)) < 1e-6);
    }

    void other_ways_to_say_triangles_are_read() {
        const auto strip = read(gltf(R"([{"mesh":0}])", {}, R"({"attributes":{"POSITION":0},"mode":5})"));
        QVERIFY(strip);
        QCOMPARE(numbers_of(*strip).triangles, size_t(6));
        const auto fan = read(gltf(R"([{"mesh":0}])", {}, R"({"attributes":{"POSITION":0},"mode":6})"));
        QVERIFY(fan);
        QCOMPARE(numbers_of(*fan).triangles, size_t(6));
        const auto with_lines =
            read(gltf(R"([{"mesh":0}])", {},
                      R"({"attributes":{"POSITION":0},"indices":1},{"attributes":{"POSITION":0},"mode":1})"));
        QVERIFY(with_lines);
        QCOMPARE(with_lines->warnings.size(), size_t(1));
        const auto instanced = read(gltf(
            R"([{"mesh":0,"extensions":{"EXT_mesh_gpu_instancing":{"attributes":{"TRANSLATION":0}}}}])",
            R"(,"extensionsUsed":["EXT_mesh_gpu_instancing"],"extensionsRequired":["EXT_mesh_gpu_instancing"])"));
        QVERIFY2(instanced, instanced ? "" : instanced.error().text().c_str());
        QCOMPARE(numbers_of(*instanced).triangles, size_t(8 * 12));
    }

    void sparse_values_take_the_place_of_others() {
        std::string bytes = box_bytes();
        put(bytes, uint8_t(7)), bytes.append(3, '\0');
        put(bytes, 5.0f), put(bytes, 2.0f), put(bytes, 3.0f);
        std::string text = gltf(R"([{"mesh":0}])");
        const auto swap = [&](const std::string& from, const std::string& to) {
            const size_t at = text.find(from);
            if (at != std::string::npos) text.replace(at, from.size(), to);
        };
        swap(
            R"("max":[1,2,3])",
            R"("max":[5,2,3],"sparse":{"count":1,"indices":{"bufferView":2,"componentType":5121},"values":{"bufferView":3}})");
        swap(
            R"("byteLength":72}])",
            R"("byteLength":72},{"buffer":0,"byteOffset":168,"byteLength":1},{"buffer":0,"byteOffset":172,"byteLength":12}])");
        swap(R"("byteLength":168)", R"("byteLength":184)");
        swap(base64(box_bytes()), base64(bytes));
        const auto model = read(text);
        QVERIFY2(model, model ? "" : model.error().text().c_str());
        QCOMPARE(numbers_of(*model).box.high, Vec3(5, 2, 3));
    }

    void what_is_broken_is_refused_in_one_sentence() {
        const std::string good = gltf(R"([{"mesh":0}])");
        const auto with = [&](const std::string& from, const std::string& to) {
            std::string text = good;
            text.replace(text.find(from), from.size(), to);
            return text;
        };
        const std::pair<const char*, std::string> cases[] = {
            {"a mesh that is not there", with(R"("mesh":0)", R"("mesh":3)")},
            {"indices that are not there", with(R"("indices":1)", R"("indices":9)")},
            {"a count beyond the buffer", with(R"("count":8)", R"("count":9)")},
            {"an old version", with(R"("version":"2.0")", R"("version":"1.0")")},
            {"a short matrix", with(R"({"mesh":0})", R"({"mesh":0,"matrix":[1,0,0,0]})")},
            {"a matrix of another kind",
             with(R"({"mesh":0})", R"({"mesh":0,"matrix":[1,0,0,1,0,1,0,0,0,0,1,0,0,0,0,1]})")},
            {"a ring of nodes", gltf(R"([{"mesh":0,"children":[1]},{"children":[0]}])")},
            {"a view beyond the buffer", with(R"("byteOffset":96)", R"("byteOffset":160)")},
            {"no triangles", with(R"("indices":1)", R"("indices":1,"mode":0)")},
            {"an unknown extension",
             gltf(R"([{"mesh":0}])", R"(,"extensionsRequired":["KHR_draco_mesh_compression"])")},
            {"no JSON", "glTF, but not really"},
            {"nothing", ""}};
        for (const auto& [what, text] : cases) {
            const auto model = read(text);
            QVERIFY2(!model, what);
            QVERIFY2(!model.error().message.empty() && model.error().message.find('\n') == std::string::npos,
                     what);
        }
        QVERIFY(refusal(gltf(R"([{"mesh":0}])", R"(,"extensionsRequired":["KHR_draco_mesh_compression"])"))
                    .find("KHR_draco_mesh_compression") != std::string::npos);
        // It is named where it is also why nothing could be read.
        QVERIFY(refusal(R"({"asset":{"version":"2.0"},"extensionsRequired":["KHR_draco_mesh_compression"],)"
                        R"("accessors":[{"bufferView":0,"componentType":5126,"count":3,"type":"VEC3"}]})")
                    .find("KHR_draco_mesh_compression") != std::string::npos);
        QVERIFY(read(R"({"asset":{"version":"2.0"},"images":[{"uri":"gone.png"}]})").error().code ==
                "model.empty");
    }

    void a_picture_that_is_gone_is_a_warning() {
        const auto model = read(gltf(
            R"([{"mesh":0}])", R"(,"images":[{"uri":"gone.png"}],"textures":[{"source":0}],)"
                               R"("materials":[{"pbrMetallicRoughness":{"baseColorTexture":{"index":0}}}])"));
        QVERIFY2(model, model ? "" : model.error().text().c_str());
        QCOMPARE(model->warnings.size(), size_t(1));
    }

    void obj_faces_of_any_kind_are_read() {
        const auto model =
            read("v 0 0 0\r\nv 4 0 0\r\nv 4 4 0\r\nv 1 1 0\r\nv 0 4 0\r\no arrow\r\nusemtl steel\r\n"
                 "f 1 2 3 4 5\r\nf -5/1 -4 \\\r\n -3\r\nl 1 2\r\nf 1 2 77\r\nf 1 99999999999999999999 2\r\nf "
                 "0 1 2\r\nf 1 2\r\n",
                 "arrow.obj");
        QVERIFY2(model, model ? "" : model.error().text().c_str());
        QCOMPARE(numbers_of(*model).triangles, size_t(4));
        QVERIFY(std::abs(numbers_of(*model).area_m2 - (10 + 8)) < 1e-12);
        QCOMPARE(model->warnings.size(), size_t(3));
        QVERIFY(!read("v 0 0 0\nf 1 2 3\n", "none.obj"));
        // A face with more corners than the library counts.
        std::string ring;
        for (int i = 0; i < 400; ++i)
            ring += "v " + std::to_string(std::cos(i * M_PI / 200)) + " " +
                    std::to_string(std::sin(i * M_PI / 200)) + " 0\n";
        ring += "f";
        for (int i = 1; i <= 400; ++i) ring += " " + std::to_string(i);
        const auto large = read(ring + "\n", "ring.obj");
        QVERIFY(large);
        QCOMPARE(numbers_of(*large).triangles, size_t(398));
        // And one that goes round four corners again and again still has two triangles less than corners.
        std::string rounds = "v 0 0 0\nv 1 0 0\nv 1 1 0\nv 0 1 0\nf";
        for (int i = 0; i < 936; ++i) rounds += " " + std::to_string(i % 4 + 1);
        const auto again = read(rounds + "\n", "rounds.obj");
        QVERIFY(again);
        QCOMPARE(numbers_of(*again).triangles, size_t(934));
    }

    void what_is_written_is_read_again() {
        const auto model = read(gltf(R"([{"mesh":0}])"));
        QVERIFY(model);
        const auto bytes = io::glb_of(Project{}, *model, "box");
        QVERIFY(bytes);
        const auto again = read(*bytes, "again.glb");
        QVERIFY2(again, again ? "" : again.error().text().c_str());
        QCOMPARE(numbers_of(*again).triangles, size_t(12));
        QVERIFY(std::abs(numbers_of(*again).volume_m3 - 6) < 1e-9);
    }

    void damaged_files_neither_crash_nor_hang() {
        Random random(99);
        const auto model = read(gltf(R"([{"mesh":0}])"));
        const std::string text = gltf(R"([{"children":[1]},{"mesh":0,"scale":[2,2,2]}])");
        const std::string glb = *io::glb_of(Project{}, *model, "box");
        const std::string obj =
            "mtllib a.mtl\nv 0 0 0 1\nv 1 0 0\nv 1 1 0\nv 0 1 0\nvt 0 0\nvn 0 0 1\no a\nusemtl b\n"
            "f 1/1/1 2/1/1 3/1/1 4/1/1\ng c\nf -1 -2 -3\n";
        int read_well = 0;
        const int rounds = test::rounds(1500);
        for (int round = 0; round < rounds; ++round) {
            const int kind = round % 3;
            std::string damaged = kind == 0 ? text : kind == 1 ? glb : obj;
            const int changes = random.whole(1, 6);
            for (int i = 0; i < changes && !damaged.empty(); ++i) {
                const size_t at = size_t(random.whole(0, int(damaged.size()) - 1));
                switch (random.whole(0, 4)) {
                case 0:
                    damaged[at] = char(random.whole(0, 255));
                    break;
                case 1:
                    damaged.erase(at, size_t(random.whole(1, 12)));
                    break;
                case 2:
                    damaged.insert(at, damaged.substr(size_t(random.whole(0, int(damaged.size()) - 1)), 9));
                    break;
                case 3: { // a number becomes another
                    const size_t digit = damaged.find_first_of("0123456789", at);
                    if (digit != std::string::npos)
                        damaged.replace(digit, 1,
                                        std::array<const char*, 5>{"-1", "4294967295", "99999999", "1e99",
                                                                   "0"}[size_t(random.whole(0, 4))]);
                    break;
                }
                default:
                    damaged.resize(at);
                }
            }
            const auto result = read(damaged, kind == 0 ? "d.gltf" : kind == 1 ? "d.glb" : "d.obj");
            read_well += result.has_value();
            if (!result) QVERIFY(!result.error().message.empty());
        }
        qInfo("%d of %d damaged files could still be read", read_well, rounds);
    }
};

RUBBLE_TEST(ModelFilesTest)
#include "model_files_test.moc"
