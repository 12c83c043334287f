#include <QtTest/QtTest>

#include "test_program.h"

#include <filesystem>
#include <fstream>
#include <map>
#include <regex>
#include <set>

/// Reads every #include of the core and compares it with the table of layers, so that a header alone cannot
/// turn a dependency round.
class LayersTest : public QObject {
    Q_OBJECT

private slots:
    void every_folder_includes_only_what_stands_below_it() {
        const std::map<std::string, std::set<std::string>> allowed{
            {"base", {}},
            {"geometry", {"base"}},
            {"level", {"base", "geometry"}},
            {"edit", {"base", "geometry", "level"}},
            {"build", {"base", "geometry", "level"}},
            {"motion", {"base", "geometry", "level", "build"}},
            {"check", {"base", "geometry", "level", "edit", "build", "motion", "solve"}},
            {"solve", {"base", "geometry", "level", "build", "motion"}},
            {"suggest", {"base", "geometry", "level", "edit", "build", "motion", "solve", "check"}},
            {"study", {"base", "geometry", "level", "edit", "build", "motion", "solve", "check"}},
            {"cast", {"base", "geometry", "level", "edit", "build", "motion", "solve", "check"}},
            {"io",
             {"base", "geometry", "level", "edit", "build", "motion", "solve", "check", "cast", "study"}},
            {"parcel",
             {"base", "geometry", "level", "edit", "build", "motion", "solve", "check", "cast", "study",
              "io"}}};
        int files = 0;
        const std::regex include("^#include [<\"]([A-Za-z]+)/?[^>\"]*[>\"]");
        for (const auto& entry : std::filesystem::recursive_directory_iterator(RUBBLE_SOURCE_DIR "/core")) {
            const std::string ending = entry.path().extension().string();
            if (ending != ".h" && ending != ".cpp") continue;
            ++files;
            const std::string folder =
                std::filesystem::relative(entry.path(), RUBBLE_SOURCE_DIR "/core").begin()->string();
            QVERIFY2(allowed.contains(folder), folder.c_str());
            std::ifstream in(entry.path());
            for (std::string line; std::getline(in, line);) {
                std::smatch match;
                if (!std::regex_search(line, match, include)) continue;
                const std::string to = match[1];
                const std::string where = entry.path().string() + ": " + line;
                QVERIFY2(to[0] != 'Q', where.c_str());
                if (allowed.contains(to) && to != folder)
                    QVERIFY2(allowed.at(folder).contains(to), where.c_str());
            }
        }
        QVERIFY(files > 40);
    }
};

RUBBLE_TEST(LayersTest)
#include "layers_test.moc"
