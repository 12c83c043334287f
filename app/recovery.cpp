#include "recovery.h"

#include <QCoreApplication>
#include <QDir>
#include <QFile>
#include <QFileInfo>
#include <QStandardPaths>

#include "io/level_file.h"
#include "io/picture_file.h"
#include "io/sheet_file.h"
#include "io/text_file.h"

namespace rubble::app {

namespace {

/// As much work as a crash may cost.
constexpr int k_delay_ms = 3000;
const char* const k_about = "about.json"; // written last: a copy without it is none

QString text_of_file(const QString& path) {
    QFile file(path);
    return file.open(QIODevice::ReadOnly) ? QString::fromUtf8(file.readAll()).trimmed() : QString();
}

/// When the process of that number began, as the kernel counts; empty where there is none. Numbers come
/// again, numbers with their beginnings do not until the machine starts anew.
QString begin_of(const QString& process) {
    const QString stat = text_of_file(QStringLiteral("/proc/%1/stat").arg(process));
    return stat.mid(stat.lastIndexOf(')') + 2).section(' ', 19, 19);
}

QString name_of_process(const QString& process) {
    const QString boot = text_of_file(QStringLiteral("/proc/sys/kernel/random/boot_id")).left(8);
    return QStringLiteral("%1-%2-%3").arg(process, begin_of(process), boot);
}

bool still_runs(const QString& copy) {
    const QString name = QFileInfo(copy).fileName(), process = name.section('-', 0, 0);
    return !process.isEmpty() && name == name_of_process(process);
}

QString level_file(const QString& copy, size_t i) {
    return QStringLiteral("%1/%2.level.json").arg(copy).arg(i);
}

QString sheet_file(const QString& copy, size_t i) {
    return QStringLiteral("%1/%2.sheet.json").arg(copy).arg(i);
}

/// The sheets of a copy, with their pictures from where those have always been.
std::vector<std::shared_ptr<const TileSheet>> read_sheets(const io::Json& sheets, const QString& path,
                                                          const std::filesystem::path& root) {
    std::vector<std::shared_ptr<const TileSheet>> out;
    for (size_t i = 0; i < sheets.size(); ++i) {
        const std::string place = sheet_file(path, i).toStdString();
        const auto text = io::read_file(place);
        if (!text) continue;
        auto sheet = io::sheet_from_text(*text, place);
        if (!sheet || !sheets[i].is_object()) continue;
        io::Reader in(sheets[i], place);
        sheet->file = in.text("file");
        if (auto picture = io::load_picture(io::picture_path(*sheet, root)))
            sheet->picture = std::make_shared<const Picture>(std::move(*picture));
        out.push_back(std::make_shared<const TileSheet>(std::move(*sheet)));
    }
    return out;
}

/// Writes what of a document is not saved.
Result<void> write_copy(const Document& now, const Document& saved, size_t index, const QString& path) {
    io::Json about;
    about["folder"] = now.folder;
    about["shown"] = index;
    about["levels"] = io::Json::array();
    const bool same_project = now.folder == saved.folder && now.project == saved.project;
    about["project"] = !same_project || now.folder.empty();
    if (about["project"]) {
        // Sheets lie in the copy by their numbers: what they are called may be anywhere.
        Project project = *now.project;
        about["sheets"] = io::Json::array();
        for (size_t i = 0; i < project.sheets.size(); ++i) {
            about["sheets"].push_back(io::Json{{"file", project.sheets[i]->file}});
            if (auto done =
                    io::write_file(sheet_file(path, i).toStdString(), io::text_of(*project.sheets[i]));
                !done)
                return done;
        }
        project.sheets.clear();
        if (auto done = io::save_project(project, path.toStdString()); !done) return done;
    }
    for (size_t i = 0; i < now.levels.size(); ++i) {
        const bool copied = i >= saved.levels.size() || !(now.levels[i] == saved.levels[i]);
        about["levels"].push_back(
            {{"file", now.levels[i].file}, {"name", now.levels[i].level->name}, {"copied", copied}});
        if (!copied) continue;
        if (auto done = io::save_level(*now.levels[i].level, level_file(path, i).toStdString()); !done)
            return done;
    }
    return io::write_file((path + '/' + k_about).toStdString(), io::to_text(about));
}

/// A copy as it was written: the document, and beside it what is in its files now, where all of that is
/// there.
struct ReadCopy {
    Document document;
    std::optional<Document> in_files;
    size_t index = 0;
};

Result<ReadCopy> read_copy(const QString& path) {
    const std::string place = (path + '/' + k_about).toStdString();
    const auto text = io::read_file(place);
    if (!text) return tl::unexpected(text.error());
    const auto json = io::parse_json(*text, place);
    if (!json) return tl::unexpected(json.error());
    io::Reader in(*json, place);
    ReadCopy out;
    Document files;
    bool all_there = true;
    out.document.folder = files.folder = in.text("folder");
    out.index = size_t(std::max(in.number("shown", 0), 0.0));
    const auto project_there = io::load_project(files.folder);
    if (project_there) files.project = *project_there;
    if (in.flag("project", false)) {
        auto project = io::load_project(path.toStdString());
        if (!project) return tl::unexpected(project.error());
        out.document.project = std::move(*project);
        if (files.folder.empty()) files.project = out.document.project;
    } else {
        out.document.project = project_there ? files.project : Shared<Project>(io::new_project("Project"));
    }
    all_there = project_there || files.folder.empty();
    const io::Json& levels = in.list("levels");
    for (size_t i = 0; i < levels.size(); ++i) {
        io::Reader one(levels[i], place, in.path_of("levels"));
        const std::string file = one.text("file");
        auto there = io::load_level(file), copied = io::load_level(level_file(path, i).toStdString());
        if (one.flag("copied", false)) {
            if (!copied) return tl::unexpected(copied.error());
            out.document.levels.push_back({file, std::move(*copied)});
        } else if (there) {
            out.document.levels.push_back({file, *there});
        } else {
            all_there = false; // it was saved, and is gone
            continue;
        }
        all_there &= bool(there);
        files.levels.push_back({file, there ? std::move(*there) : Level{}});
    }
    if (!in.ok()) return tl::unexpected(in.error());
    if (out.document.levels.empty())
        return rubble::fail("recovery.empty", place, "There is no level in this copy.");
    const std::string shown = out.document.levels[std::min(out.index, out.document.levels.size() - 1)].file;
    if (in.flag("project", false)) {
        Project project = *out.document.project;
        project.sheets = read_sheets(in.list("sheets"), path, io::files_folder(out.document, shown));
        out.document.project = Shared<Project>(std::move(project));
    }
    std::vector<Error> remarks;
    out.document = io::with_files_read(std::move(out.document), remarks);
    if (all_there) out.in_files = io::with_files_read(std::move(files), remarks);
    return out;
}

} // namespace

Recovery::Recovery(Documents& documents, QString folder, QObject* parent)
    : QObject(parent),
      documents_(documents),
      folder_(std::move(folder)) {
    writer_.setMaxThreadCount(1); // an older copy must not overtake a newer one
    soon_.setSingleShot(true);
    soon_.setInterval(k_delay_ms);
    connect(&soon_, &QTimer::timeout, this, &Recovery::write);
    connect(&documents_, &Documents::changed, this, [this] {
        // Not put off by every further change: someone who never pauses is covered too.
        if (!soon_.isActive()) soon_.start();
    });
    connect(&documents_, &Documents::savedChanged, this, &Recovery::follow);
    connect(&documents_, &Documents::opened, this, &Recovery::follow);
}

Recovery::~Recovery() { take_away(); }

QString Recovery::usual_folder() {
    return QStandardPaths::writableLocation(QStandardPaths::AppLocalDataLocation) +
           QStringLiteral("/recovery");
}

QString Recovery::own_path() const {
    return folder_ + '/' + name_of_process(QString::number(QCoreApplication::applicationPid()));
}

/// What is saved needs no copy; what is not, such as other levels when one was opened, keeps its own.
void Recovery::follow() {
    if (documents_.saved()) take_away();
}

void Recovery::write() {
    if (documents_.saved()) return take_away();
    writer_.start([this, now = documents_.document(), saved = documents_.last_saved(),
                   index = documents_.level_index(), path = own_path()] {
        const auto done = write_copy(now, saved, index, path);
        QMetaObject::invokeMethod(this, [this, done] {
            if (done)
                emit written();
            else
                emit documents_.message(tr("No recovery copy could be kept: %1")
                                            .arg(QString::fromStdString(done.error().text())));
        });
    });
}

void Recovery::take_away() {
    soon_.stop();
    writer_.waitForDone(); // a copy being written would come after
    discard({own_path(), {}, {}});
}

std::vector<Recovery::Copy> Recovery::left_behind() const {
    std::vector<Copy> out;
    for (const QFileInfo& info : QDir(folder_).entryInfoList(QDir::Dirs | QDir::NoDotAndDotDot, QDir::Time)) {
        const QString path = info.filePath();
        if (still_runs(path)) continue;
        const QFileInfo about(path + '/' + k_about);
        if (!about.exists()) {
            discard({path, {}, {}});
            continue;
        }
        const auto copy = read_copy(path);
        if (!copy) continue; // damaged; somebody may still get something out of it by hand
        const size_t shown = std::min(copy->index, copy->document.levels.size() - 1);
        out.push_back(
            {path, QString::fromStdString(copy->document.levels[shown].level->name), about.lastModified()});
    }
    return out;
}

Result<void> Recovery::restore(const Copy& copy) {
    auto read = read_copy(copy.path);
    if (!read) return tl::unexpected(read.error());
    ProjectFiles(documents_).recover(std::move(read->in_files), std::move(read->document), read->index);
    discard(copy);
    return {};
}

void Recovery::discard(const Copy& copy) { QDir(copy.path).removeRecursively(); }

} // namespace rubble::app
