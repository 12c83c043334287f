#include <QtTest/QtTest>

#include <nlohmann/json.hpp>
#include <png.h>
#include <zlib.h>

#include "build/tile_outlines.h"
#include "core/io/json_schema.h"
#include "core/random.h"
#include "core/tile_level.h"
#include "edit/tiles.h"
#include "io/export_formats.h"
#include "io/level_file.h"
#include "io/picture_file.h"
#include "io/project_file.h"
#include "io/sheet_file.h"
#include "io/text_file.h"
#include "io/tile_csv.h"
#include "io/tile_export.h"
#include "io/tile_file.h"
#include "test_program.h"

using namespace rubble;
using test::Random;

namespace {

const TileLayer& tiles_of(const Level& level) { return **level.layers.at(0)->tiles; }

TileGrid random_grid(Random& random, int columns, int rows) {
    TileGridMaker maker;
    for (int row = 0; row < rows; ++row)
        for (int column = 0; column < columns; ++column)
            if (random.chance(0.7))
                maker.put({column, row},
                          Tile(random.whole(0, 300), random.chance(0.3),
                               random.chance(0.3) ? random.whole(0, 3) : 0, random.chance(0.2)));
    return maker.finished({{0, 0}, {columns, rows}});
}

/// A PNG of some kind, written by the library that everybody writes them with.
struct Flavour {
    const char* name;
    int color_type, bits;
    bool interlaced;
};

std::string png_of_kind(const Flavour& kind, int width, int height) {
    std::string out;
    png_structp png = png_create_write_struct(PNG_LIBPNG_VER_STRING, nullptr, nullptr, nullptr);
    png_infop info = png_create_info_struct(png);
    png_set_write_fn(
        png, &out,
        [](png_structp p, png_bytep data, size_t n) {
            static_cast<std::string*>(png_get_io_ptr(p))->append(reinterpret_cast<char*>(data), n);
        },
        nullptr);
    png_set_IHDR(png, info, png_uint_32(width), png_uint_32(height), kind.bits, kind.color_type,
                 kind.interlaced ? PNG_INTERLACE_ADAM7 : PNG_INTERLACE_NONE, PNG_COMPRESSION_TYPE_DEFAULT,
                 PNG_FILTER_TYPE_DEFAULT);
    if (kind.color_type == PNG_COLOR_TYPE_PALETTE) {
        const png_color colors[2] = {{255, 0, 0}, {0, 0, 255}};
        png_set_PLTE(png, info, colors, 2);
    }
    png_write_info(png, info);
    if (kind.bits < 8) png_set_packing(png);
    const int channels = kind.color_type == PNG_COLOR_TYPE_RGB          ? 3
                         : kind.color_type == PNG_COLOR_TYPE_RGB_ALPHA  ? 4
                         : kind.color_type == PNG_COLOR_TYPE_GRAY_ALPHA ? 2
                                                                        : 1;
    const int bytes = kind.bits == 16 ? 2 : 1;
    // Left half full (or the first colour), right half nothing (or the second).
    std::vector<png_byte> row(size_t(width * channels * bytes));
    for (int x = 0; x < width; ++x)
        for (int k = 0; k < channels * bytes; ++k)
            row[size_t(x * channels * bytes + k)] = kind.color_type == PNG_COLOR_TYPE_PALETTE
                                                        ? png_byte(x >= width / 2)
                                                    : kind.bits < 8 ? png_byte(x < width / 2)
                                                                    : png_byte(x < width / 2 ? 255 : 0);
    const int passes = png_set_interlace_handling(png);
    for (int pass = 0; pass < passes; ++pass)
        for (int y = 0; y < height; ++y) png_write_row(png, row.data());
    png_write_end(png, nullptr);
    png_destroy_write_struct(&png, &info);
    return out;
}

} // namespace

/// Files of tiles: levels, sheets, pictures, CSV, and what is exported.
class TileFilesTest : public QObject {
    Q_OBJECT

    QTemporaryDir folder_;
    std::filesystem::path path(const char* name) const { return (folder_.path() + "/" + name).toStdString(); }

private slots:
    void a_level_comes_back_as_it_was_saved() {
        Random random(81);
        for (int round = 0; round < test::rounds(60); ++round) {
            Level level = test::tile_level({"#"}, 0.25, random.chance(0.5) ? Frame::side : Frame::plan);
            TileLayer tiles = tiles_of(level);
            tiles.grid = random_grid(random, random.whole(1, 70), random.whole(1, 40));
            tiles.depth = random.whole(-3, 3), tiles.opacity = random.chance(0.5) ? 1 : 0.5;
            tiles.parallax = random.chance(0.5) ? Vec2(1) : Vec2(0.5, 0.25);
            tiles.sheet = nullptr;
            Layer ground = *level.layers[0];
            ground.tiles = Shared<TileLayer>(tiles);
            level.layers[0] = std::move(ground);
            if (level.frame == Frame::plan && random.chance(0.5)) level.walked = Walked::by_cells;
            const std::string text = io::text_of(level);
            const auto read = io::level_from_text(text, "level");
            QVERIFY2(read, read ? "" : read.error().text().c_str());
            QVERIFY(*read == level);
            QCOMPARE(io::text_of(*read), text);
        }
    }

    void rows_stand_in_lines_of_their_own() {
        const std::string text = io::text_of(test::tile_level({"# #", "###"}));
        QVERIFY(text.find("\n        \"0,-1,0\",\n        \"0,0,0\"\n") != std::string::npos);
        QCOMPARE(io::text_of(Tile(3, true, 2)), std::string("3mr2"));
    }

    void cells_put_beyond_the_upper_left_stay_where_they_are() {
        Level level = test::tile_level({"##", "##"});
        TileLayer tiles = tiles_of(level);
        const Vec3 there = place_of(tiles, Frame::side, {-3, -2});
        const TileGrid::Change change{{-3, -2}, Tile(4)};
        tiles.grid = tiles.grid.with(std::span(&change, 1));
        level = edit::with_tile_layer(level, {"ground"}, std::move(tiles));
        const auto read = io::level_from_text(io::text_of(level), "level");
        QVERIFY(read && with_files_of({}, level) == *read);
        const TileLayer& again = tiles_of(*read);
        QCOMPARE(again.grid.at(cell_at(again, Frame::side, there)).number(), 4);
        QCOMPARE(again.grid.area().columns(), 5);
    }

    void rows_that_are_none_are_refused_with_their_place() {
        const auto with_rows = [](const std::string& rows) {
            return io::level_from_text(
                R"({"format":1,"frame":"side","layers":[{"id":"g","type":"tiles","rows":)" + rows + "}]}",
                "level");
        };
        QVERIFY(with_rows(R"(["0,-1, 3m , 2r1,3mr3"])"));
        QVERIFY(with_rows("[]"));
        QVERIFY(with_rows(R"([""])"));
        for (const char* rows :
             {R"(["0,x"])", R"(["0,,1"])", R"(["0,1,"])", R"(["-2"])", R"(["0r4"])", R"(["0rm"])",
              R"(["99999999999"])", R"([0,1])", R"("0,1")", R"(["1e3"])", R"(["1 2"])", R"(["0","0",",0"])"})
            QVERIFY2(!with_rows(rows), rows);
        const auto wrong = with_rows(R"(["0,1","0,7q,3"])");
        QVERIFY2(wrong.error().text().find("row 2, cell 2") != std::string::npos,
                 wrong.error().text().c_str());
        for (const char* layer : {R"("cell_m":0)", R"("cell_m":1e9)", R"("opacity":2)", R"("origin":[0,0])",
                                  R"("solid":1)", R"("parallax":[1])", R"("sheet":3)"})
            QVERIFY2(!io::level_from_text(
                         std::string(R"({"format":1,"layers":[{"id":"g","type":"tiles","rows":["0"],)") +
                             layer + "}]}",
                         "level"),
                     layer);
        QVERIFY(!io::level_from_text(R"({"format":1,"layers":[{"id":"g","type":"tile"}]})", "level"));
    }

    void sheets_come_back_and_damaged_ones_say_so() {
        TileSheet sheet = *test::grey();
        sheet.file = "grey.sheet.json", sheet.image = "grey.png";
        sheet.edgings = {{"Stone", {{GroundAround(255), 0}, {GroundAround(5), 3}}}, {"Sand", {}}};
        QVERIFY(io::save_picture(*sheet.picture, path("grey.png")));
        QVERIFY(io::save_sheet(sheet, folder_.path().toStdString()));
        std::vector<Error> remarks;
        const auto read = io::load_sheet(folder_.path().toStdString(), "grey.sheet.json", remarks);
        QVERIFY(read && remarks.empty());
        QVERIFY(read->tiles == sheet.tiles && *read->picture == *sheet.picture && read->cut == sheet.cut);
        QVERIFY(read->edgings == sheet.edgings);
        QCOMPARE(io::text_of(*read), io::text_of(sheet));
        const QStringList problems =
            test::schema_problems("sheet.schema.json", {io::Json::parse(io::text_of(sheet))});
        QCOMPARE(problems, QStringList{QString()});
        for (
            const char* text :
            {"", "[]", R"({"format":2})", R"({"format":1,"cell_px":[0,3]})", R"({"format":1,"cell_px":[16]})",
             R"({"format":1,"cell_px":[16,16],"tiles":{"a":{}}})",
             R"({"format":1,"cell_px":[16,16],"tiles":{"-1":{"at":[0,0]}}})",
             R"({"format":1,"cell_px":[16,16],"tiles":{"0":{"at":[0,0],"collision":"outline"}}})",
             R"({"format":1,"cell_px":[16,16],"tiles":{"0":{"at":[0,0],"collision":"outline","outline":[[0,0],[2,0],[1,1]]}}})",
             R"({"format":1,"cell_px":[16,16],"tiles":{"0":{"at":[0,0],"outline":[[0,0],[1,0]]}}})",
             R"({"format":1,"cell_px":[16,16],"margin_px":-1})",
             R"({"format":1,"cell_px":[16,16],"edgings":[{"tiles":{"256":0}}]})",
             R"({"format":1,"cell_px":[16,16],"edgings":[{"tiles":{"1":-1}}]})",
             R"({"format":1,"cell_px":[16,16],"tiles":{"0":{"at":[-1,0]}}})"})
            QVERIFY2(!io::sheet_from_text(text, "sheet"), text);
        // A sheet whose picture is gone still says what collides.
        QVERIFY(QFile::remove(QString::fromStdString(path("grey.png").string())));
        const auto bare = io::load_sheet(folder_.path().toStdString(), "grey.sheet.json", remarks);
        QVERIFY(bare && !bare->picture && remarks.size() == 1 && bare->tiles == sheet.tiles);
    }

    void a_level_is_drawn_from_the_sheet_that_it_names() {
        TileSheet sheet = *test::grey();
        sheet.file = "sheets/grey.sheet.json", sheet.image = "grey.png";
        QDir(folder_.path()).mkdir("sheets");
        QVERIFY(io::save_sheet(sheet, folder_.path().toStdString()));
        QVERIFY(io::save_picture(*sheet.picture, path("sheets/grey.png")));
        QVERIFY(io::save_level(test::tile_level({"#/"}), path("a.level.json")));
        const auto loaded = io::load_level_with_project(path("a.level.json"));
        QVERIFY(loaded && loaded->remarks.empty());
        QVERIFY(tiles_of(loaded->level).sheet && tiles_of(loaded->level).sheet->tile(5)->name == "Slope up");
        // One that is not there is told, and the level opens all the same.
        QVERIFY(QDir(folder_.path() + "/sheets").removeRecursively());
        const auto without = io::load_level_with_project(path("a.level.json"));
        QVERIFY(without && without->remarks.size() == 1 && !tiles_of(without->level).sheet);
        QCOMPARE(tiles_of(without->level).sheet_file, std::string("sheets/grey.sheet.json"));
    }

    void every_kind_of_png_gives_its_picture_data() {
        QTest::addColumn<int>("type");
        QTest::addColumn<int>("bits");
        QTest::addColumn<bool>("interlaced");
        const Flavour kinds[] = {
            {"palette", PNG_COLOR_TYPE_PALETTE, 8, false},
            {"palette, 1 bit", PNG_COLOR_TYPE_PALETTE, 1, false},
            {"grey", PNG_COLOR_TYPE_GRAY, 8, false},
            {"grey, 1 bit", PNG_COLOR_TYPE_GRAY, 1, false},
            {"grey, 16 bits", PNG_COLOR_TYPE_GRAY, 16, false},
            {"grey with opacity", PNG_COLOR_TYPE_GRAY_ALPHA, 8, false},
            {"colour", PNG_COLOR_TYPE_RGB, 8, false},
            {"colour, 16 bits, interlaced", PNG_COLOR_TYPE_RGB, 16, true},
            {"colour with opacity", PNG_COLOR_TYPE_RGB_ALPHA, 8, false},
            {"colour with opacity, 16 bits, interlaced", PNG_COLOR_TYPE_RGB_ALPHA, 16, true},
            {"palette, interlaced", PNG_COLOR_TYPE_PALETTE, 8, true}};
        for (const Flavour& kind : kinds)
            QTest::newRow(kind.name) << kind.color_type << kind.bits << kind.interlaced;
    }
    void every_kind_of_png_gives_its_picture() {
        QFETCH(int, type);
        QFETCH(int, bits);
        QFETCH(bool, interlaced);
        const std::string bytes = png_of_kind({"", type, bits, interlaced}, 34, 7);
        const auto picture = io::picture_from_png(bytes, "png");
        QVERIFY2(picture, picture ? "" : picture.error().text().c_str());
        QCOMPARE(picture->width, 34);
        QCOMPARE(picture->height, 7);
        const auto pixel = [&](int x) { return &picture->rgba[size_t(3 * 34 + x) * 4]; };
        const bool opacity = type == PNG_COLOR_TYPE_RGB_ALPHA || type == PNG_COLOR_TYPE_GRAY_ALPHA;
        QCOMPARE(int(pixel(2)[3]), 255);
        QCOMPARE(int(pixel(30)[3]), opacity ? 0 : 255);
        if (type == PNG_COLOR_TYPE_PALETTE) {
            QVERIFY(pixel(2)[0] == 255 && pixel(2)[2] == 0 && pixel(30)[0] == 0 && pixel(30)[2] == 255);
        } else {
            QCOMPARE(int(pixel(2)[0]), 255);
            if (!opacity) QCOMPARE(int(pixel(30)[0]), 0);
        }
        // Cut off or with a byte changed it is a picture or a message, and never more than that.
        Random random(82);
        for (int i = 0; i < test::rounds(200); ++i) {
            std::string damaged = bytes.substr(
                0, random.chance(0.5) ? bytes.size() : size_t(random.whole(0, int(bytes.size()))));
            for (int k = random.whole(0, 4); k-- > 0 && !damaged.empty();)
                damaged[size_t(random.whole(0, int(damaged.size()) - 1))] = char(random.whole(0, 255));
            const auto got = io::picture_from_png(damaged, "png");
            if (!got) QVERIFY(!got.error().message.empty());
        }
    }

    void a_picture_too_large_for_memory_says_so() {
        // Only its head, which asks for ten thousand million pixels.
        std::string bytes = png_of_kind({"", PNG_COLOR_TYPE_RGB, 8, false}, 16, 16);
        const auto put = [&](size_t at, uint32_t value) {
            for (size_t i = 0; i < 4; ++i) bytes[at + i] = char(value >> (24 - 8 * i));
        };
        put(16, 60000), put(20, 60000);
        uLong crc = crc32(0, reinterpret_cast<const Bytef*>(bytes.data()) + 12, 17);
        put(29, uint32_t(crc));
        const auto picture = io::picture_from_png(bytes, "huge.png");
        QVERIFY(!picture);
        QCOMPARE(picture.error().code, std::string("picture.size"));
    }

    void csv_comes_back_whatever_ends_its_lines() {
        Random random(83);
        for (int round = 0; round < test::rounds(60); ++round) {
            const TileGrid grid = random_grid(random, random.whole(1, 40), random.whole(1, 30));
            const std::string text = io::csv_of(grid);
            const auto read = io::grid_from_csv(text, "csv");
            QVERIFY(read);
            grid.for_each_tile(grid.area(), [&](CellAt at, Tile tile) {
                QCOMPARE(io::text_of(read->at(at)),
                         io::text_of(tile)); // who placed it is no matter of numbers
            });
            std::string other = "\xEF\xBB\xBF";
            for (const char c : text)
                other += c == '\n' ? std::string(round % 2 ? ",\r\n" : "\r") : std::string(1, c);
            QVERIFY(io::grid_from_csv(other, "csv").value() == *read);
            const auto trimmed = io::grid_from_csv(io::csv_of(grid, true), "csv", io::RaggedRows::fill_up);
            QVERIFY(trimmed || grid.bare());
            if (trimmed)
                grid.for_each_tile(grid.area(), [&](CellAt at, Tile tile) {
                    QCOMPARE(io::text_of(trimmed->at(at)), io::text_of(tile));
                });
        }
    }

    void ragged_csv_is_refused_or_filled_up_and_never_shifted() {
        const auto refused = io::grid_from_csv("0,1,2\n0,1\n", "a.csv");
        QVERIFY(!refused);
        QCOMPARE(refused.error().code, std::string("csv.ragged"));
        QVERIFY(refused.error().text().find("row 2") != std::string::npos);
        const auto filled = io::grid_from_csv("0,1,2\n0,1\n", "a.csv", io::RaggedRows::fill_up);
        QVERIFY(filled && filled->at({1, 1}).number() == 1 && filled->at({2, 1}).empty());
        for (const char* text : {"", "\n\n", "0,,1\n", "0;1\n", "0,1,,\n", ",0\n"})
            QVERIFY2(!io::grid_from_csv(text, "a.csv"), text);
    }

    void what_is_exported_is_what_is_there() {
        Level level = test::tile_level({"#  #", "#--#", "####"});
        level = test::with_element(level, "start", "start", {0.5, 0, 0.5});
        QVERIFY(io::export_csv({}, level, path("out.csv")));
        QVERIFY(io::grid_from_csv(*io::read_file(path("out.csv")), "csv").value() == tiles_of(level).grid);
        QCOMPARE(*io::read_file(path("out.ground.collision.csv")),
                 std::string("1,0,0,1\n1,1,1,1\n1,1,1,1\n"));
        QVERIFY(io::read_file(path("out.elements.csv"))->find("\"start\",\"\",\"start\",0.5,0.0,0.5,0.0") !=
                std::string::npos);
        QVERIFY(io::export_png({}, level, path("out.png")));
        const auto picture = io::load_picture(path("out.png"));
        QVERIFY(picture && picture->width == 64 && picture->height == 48);
        // Pixel for pixel the sheet's: the whole tile in the lower left corner, nothing in the gap above.
        const Picture& sheet = *test::grey()->picture;
        for (int y = 0; y < 16; ++y)
            for (int x = 0; x < 16; ++x) {
                const uint8_t *is = &picture->rgba[size_t((32 + y) * 64 + x) * 4],
                              *wanted = &sheet.rgba[size_t(y * sheet.width + x) * 4];
                QVERIFY(std::equal(is, is + 4, wanted));
                QCOMPARE(int(picture->alpha(16 + x, y)), 0);
            }
        QVERIFY(io::export_svg({}, level, path("out.svg")));
        QVERIFY(io::export_outlines({}, level, path("out.json")));
        QVERIFY(io::read_file(path("out.json"))->find("one_way") != std::string::npos);
    }

    void outlines_go_once_round_what_collides() {
        Random random(84);
        for (int round = 0; round < test::rounds(60); ++round) {
            std::vector<std::string> rows;
            for (int row = 0; row < 9; ++row) {
                std::string line;
                for (int column = 0; column < 40; ++column) line += "##/\\_a   "[random.whole(0, 8)];
                rows.push_back(line);
            }
            std::vector<build::TilePrism> prisms;
            double area = 0;
            for (const auto& strip : build::TileMatterBuilder().build(test::tile_level(rows)))
                for (const auto& p : strip->prisms) {
                    prisms.push_back(p);
                    area += (p.right - p.left) * (p.high_left + p.high_right - p.low_left - p.low_right) / 2;
                }
            double inside = 0;
            for (const auto& line : build::outlines_of(prisms))
                for (size_t i = 0; i < line.size(); ++i)
                    inside += cross(line[i], line[(i + 1) % line.size()]) / 2;
            QVERIFY2(std::abs(inside - area) < 1e-6 * (1 + area),
                     qPrintable(QString("%1 instead of %2").arg(inside).arg(area)));
        }
        // A ring is a line around and one around its hole.
        std::vector<build::TilePrism> ring;
        for (const auto& strip : build::TileMatterBuilder().build(test::tile_level({"####", "#  #", "####"})))
            ring.insert(ring.end(), strip->prisms.begin(), strip->prisms.end());
        const auto lines = build::outlines_of(ring);
        QCOMPARE(lines.size(), size_t(2));
        for (const auto& line : lines) QCOMPARE(line.size(), size_t(4));
    }

    void placed_pictures_are_written_and_read() {
        Level level = test::tile_level({"##"}, 1);
        PlacedPicture picture;
        picture.sheet_file = test::grey()->file, picture.sheet = test::grey();
        picture.number = 5, picture.at = {3, 2, 1}, picture.size = {2, 1.5}, picture.turn_deg = 30;
        picture.mirrored = picture.solid = picture.repeats_right = true;
        picture.opacity = 0.5, picture.parallax = {0.25, 1};
        Layer play = *level.layers.back();
        play.items.push_back(Item{{"i1"}, "Lamp", false, picture, {}});
        level.layers.back() = play;
        Project project;
        project.sheets.push_back(test::grey());
        const auto again = io::level_from_text(io::text_of(level), "again");
        QVERIFY(again);
        QVERIFY(with_files_of(project, *again) == level);
        for (const QString& problem :
             test::schema_problems("level.schema.json", {io::Json::parse(io::text_of(level))}))
            QCOMPARE(problem, QString());
        // Likewise a sheet of unequal pictures, and a project with a scheme of layers.
        TileSheet sheet = *test::grey();
        sheet.tiles[3].box_px = {4, 5, 20, 30};
        sheet.tiles[3].at = {3, 0};
        const auto sheet_again = io::sheet_from_text(io::text_of(sheet), "again");
        QVERIFY(sheet_again && sheet_again->tiles == sheet.tiles);
        for (const QString& problem :
             test::schema_problems("sheet.schema.json", {io::Json::parse(io::text_of(sheet))}))
            QCOMPARE(problem, QString());
        project.scheme = {{{"far"}, "Far", Frame::side, 0.25, false, 9, 0.5, Vec2(0.5, 1)}};
        const auto project_again = io::project_from_text(io::text_of(project), "again");
        QVERIFY(project_again && project_again->scheme == project.scheme);
        for (const QString& problem :
             test::schema_problems("project.schema.json", {io::Json::parse(io::text_of(project))}))
            QCOMPARE(problem, QString());
        // Odd numbers are told.
        for (const char* wrong :
             {R"("size":[0,1])", R"("number":-1)", R"("opacity":2)", R"("at":[1e300,0,0])"}) {
            const std::string text =
                R"({"format":1,"frame":"side","layers":[{"id":"l","items":[{"id":"i","type":"picture",)" +
                std::string(wrong) + "}]}]}";
            QVERIFY2(!io::level_from_text(text, "wrong"), wrong);
        }
    }

    void tiles_go_into_gltf_with_their_pictures_and_what_collides() {
        const std::filesystem::path file = path("level.gltf");
        Level level = test::tile_level({"/#-", "###"}, 1);
        QVERIFY(io::export_level({}, level, file));
        const auto json = nlohmann::json::parse(*io::read_file(file));
        QCOMPARE(json["images"].size(), size_t(1));
        QCOMPARE(json["images"][0]["mimeType"], "image/png");
        QCOMPARE(json["samplers"][0]["magFilter"], 9728); // nearest: pixels stay crisp
        int collisions = 0, drawn = 0;
        for (const auto& node : json["nodes"]) {
            if (node.contains("extras") && node["extras"].contains("collision")) {
                ++collisions;
                QVERIFY(node["extras"]["kind"] == "solid" || node["extras"]["kind"] == "one_way");
            } else if (node.contains("mesh")) {
                ++drawn;
                const auto& primitive = json["meshes"][node["mesh"].get<int>()]["primitives"][0];
                const auto& points = json["accessors"][primitive["attributes"]["POSITION"].get<int>()];
                QCOMPARE(points["count"], 6 * 4); // a square for each tile
                QVERIFY(primitive["attributes"].contains("TEXCOORD_0"));
                QCOMPARE(points["max"][0].get<double>(), 3.0);
                QCOMPARE(points["max"][1].get<double>(), 2.0);
            }
        }
        QCOMPARE(drawn, 1);
        QCOMPARE(collisions, 2);
    }

    void placed_pictures_are_drawn_into_the_picture_of_the_level() {
        Level level = test::tile_level({"#   ", "####"}, 1);
        PlacedPicture picture;
        picture.sheet = test::grey(), picture.sheet_file = test::grey()->file;
        picture.number = 0, picture.at = {2.5, 0, 1}, picture.size = {1, 1};
        Layer play = *level.layers.back();
        play.items.push_back(Item{{"i1"}, {}, false, picture, {}});
        level.layers.back() = play;
        QVERIFY(io::export_level({}, level, path("level.png")));
        const auto drawn = io::load_picture(path("level.png"));
        QVERIFY(drawn);
        QCOMPARE(drawn->width, 64); // a pixel of the sheet is a pixel
        QCOMPARE(int(drawn->alpha(40, 8)), 255);
        QCOMPARE(int(drawn->alpha(56, 8)), 0);
        // One that repeats lies over all of the width.
        picture.repeats_right = true;
        play.items.set(0, Item{{"i1"}, {}, false, picture, {}});
        level.layers.back() = play;
        QVERIFY(io::export_level({}, level, path("level.png")));
        QCOMPARE(int(io::load_picture(path("level.png"))->alpha(56, 8)), 255);
    }
};

RUBBLE_TEST(TileFilesTest)
#include "tile_files_test.moc"
