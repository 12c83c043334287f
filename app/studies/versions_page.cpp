#include "studies/versions_page.h"

#include <QDateTime>
#include <QDir>
#include <QFileDialog>
#include <QFileInfo>
#include <QHBoxLayout>
#include <QInputDialog>
#include <QPushButton>
#include <QTime>

#include "claim_names.h"
#include "edit/takeover.h"
#include "io/git_versions.h"
#include "io/project_file.h"
#include "numbers.h"
#include "theme.h"
#include "view/overlay.h"

namespace rubble::app {

namespace {

/// So many rows of the list are seen at least.
constexpr int k_least_rows = 8;
/// What the choices of the list stand for; kept states follow by their index.
enum Choice { k_beginning = -5, k_git = -4, k_nothing = -3, k_saved = -2, k_file = -1 };

QString versions_folder(const QString& file) {
    QString stem = QFileInfo(file).fileName();
    stem.remove(QStringLiteral(".level.json"));
    return QFileInfo(file).path() + QStringLiteral("/versions/") + stem;
}

const QString k_ending = QStringLiteral(".level.json");

} // namespace

QString version_path(const QString& file, const QString& name) {
    QString plain = name.trimmed();
    for (QChar& c : plain)
        if (c == '/' || c == '\\' || c == ':' || c.category() == QChar::Other_Control) c = '-';
    if (plain.startsWith('.')) plain.prepend('-');
    return versions_folder(file) + '/' + plain + k_ending;
}

VersionsPage::VersionsPage(Session& session, QWidget* parent)
    : QWidget(parent),
      session_(session),
      jobs_([this](const Job& job, uint64_t number, const Cancel& cancel) { work(job, number, cancel); }) {
    qRegisterMetaType<std::shared_ptr<const Beside>>();
    choice_ = new QComboBox;
    choice_->setAccessibleName(tr("Compare with"));
    auto* keep = new QPushButton(tr("Keep this state"));
    answer_ = new QLabel;
    answer_->setWordWrap(true);
    list_ = new QListWidget;
    list_->setAccessibleName(tr("Changes"));
    list_->setMinimumHeight(fontMetrics().height() * k_least_rows);
    auto* left = new QVBoxLayout;
    auto* with = new QHBoxLayout;
    with->addWidget(new QLabel(tr("Compare with"))), with->addWidget(choice_, 1), with->addWidget(keep);
    left->addLayout(with), left->addWidget(answer_), left->addStretch();
    auto* row = new QHBoxLayout(this);
    row->setContentsMargins(14, 4, 14, 4);
    row->setSpacing(12);
    take_over_ = new QPushButton(tr("Take over from there"));
    take_over_->setToolTip(tr("Makes the marked item as it is in the other version"));
    take_over_->setEnabled(false);
    auto* right = new QVBoxLayout;
    right->addWidget(list_, 1), right->addWidget(take_over_, 0, Qt::AlignLeft);
    row->addLayout(left, 4), row->addLayout(right, 5);
    connect(take_over_, &QPushButton::clicked, this, &VersionsPage::take_over);
    connect(keep, &QPushButton::clicked, this, &VersionsPage::keep_state);
    connect(choice_, &QComboBox::activated, this, &VersionsPage::choose);
    connect(list_, &QListWidget::currentRowChanged, this, [this](int at) {
        if (at >= 0 && size_t(at) < rows_.size())
            emit placeWanted(rows_[size_t(at)].at, rows_[size_t(at)].items);
        take_over_->setEnabled(at >= 0 && size_t(at) < rows_.size() && !rows_[size_t(at)].differs.empty());
    });
    connect(&session_, &Session::documentOpened, this, [this] {
        kept_.clear();
        kept_.push_back({tr("the level as it was opened"), session_.project(), session_.stored_level()});
        compare_with({});
        offer();
    });
    connect(&session_, &Session::builtChanged, this, &VersionsPage::ask);
    connect(this, &VersionsPage::found, this,
            [this](quint64 request, const std::shared_ptr<const Beside>& beside) {
                if (request == request_ && version_) take(beside);
            });
    kept_.push_back({tr("the level as it was opened"), session_.project(), session_.stored_level()});
    offer();
    compare_with({});
}

/// What there is to compare with.
void VersionsPage::offer() {
    const QVariant was = choice_->currentData();
    choice_->clear();
    choice_->addItem(tr("nothing"), k_nothing);
    choice_->addItem(tr("the level as it was saved"), k_saved);
    for (size_t i = 0; i < kept_.size(); ++i) choice_->addItem(kept_[i].title, int(i));
    if (study::beginning_of(session_.stored_level()))
        choice_->addItem(tr("what it was begun from"), k_beginning);
    if (const QString file = session_.files().file(); !file.isEmpty())
        for (const QFileInfo& one :
             QDir(versions_folder(file)).entryInfoList({'*' + k_ending}, QDir::Files, QDir::Name)) {
            QString name = one.fileName();
            name.chop(k_ending.size());
            choice_->addItem(tr("version “%1”").arg(name), one.filePath());
        }
    choice_->addItem(tr("another file …"), k_file);
    choice_->addItem(tr("a version in git …"), k_git);
    choice_->setCurrentIndex(std::max(0, version_ ? choice_->findData(was) : 0));
}

void VersionsPage::keep_state() {
    kept_.push_back({tr("the state of %1").arg(QTime::currentTime().toString(QStringLiteral("HH:mm:ss"))),
                     session_.project(), session_.stored_level()});
    offer();
}

void VersionsPage::choose(int row) {
    if (const QVariant kept = choice_->itemData(row); kept.typeId() == QMetaType::QString)
        return open_version(kept.toString());
    const int which = choice_->itemData(row).toInt();
    if (which == k_file) return choose_file();
    if (which == k_git) return choose_in_git();
    if (which == k_beginning)
        if (const auto from = study::beginning_of(session_.stored_level()))
            return open_version(QString::fromStdString(from->file));
    if (which >= 0 && size_t(which) < kept_.size()) return compare_with(kept_[size_t(which)]);
    compare_with(which == k_saved ? last_saved() : std::nullopt);
}

std::optional<VersionsPage::Version> VersionsPage::last_saved() const {
    const Document& saved = session_.documents().last_saved();
    const size_t index = session_.documents().level_index();
    if (index >= saved.levels.size()) return {};
    return Version{tr("the level as it was saved"), *saved.project, *saved.levels[index].level};
}

void VersionsPage::choose_file() {
    const QString path = QFileDialog::getOpenFileName(this, tr("Compare with another file"),
                                                      QFileInfo(session_.files().file()).path(),
                                                      tr("Levels (*.level.json);;All files (*)"));
    if (path.isEmpty()) return choice_->setCurrentIndex(0), compare_with({});
    open_version(path);
}

void VersionsPage::open_version(const QString& path) {
    auto loaded = io::load_level_with_project(path.toStdString());
    if (!loaded) {
        choice_->setCurrentIndex(0);
        compare_with({});
        return emit session_.message(QString::fromStdString(loaded.error().message));
    }
    compare_with(Version{QFileInfo(path).fileName(), std::move(loaded->project), std::move(loaded->level)});
}

/// The file's versions, told by when, who and what for.
void VersionsPage::choose_in_git() {
    const auto none = [this](const QString& why) {
        choice_->setCurrentIndex(0);
        compare_with({});
        emit session_.message(why);
    };
    const std::string file = session_.files().file().toStdString();
    if (file.empty()) return none(tr("The level was not saved yet"));
    const auto versions = io::git_versions_of(file);
    if (!versions) return none(QString::fromStdString(versions.error().message));
    if (versions->empty()) return none(tr("git keeps no version of this file"));
    QStringList titles;
    for (const io::GitVersion& one : *versions)
        titles << QStringLiteral("%1 · %2 · %3")
                      .arg(QDateTime::fromSecsSinceEpoch(one.seconds)
                               .toString(QStringLiteral("yyyy-MM-dd HH:mm")),
                           QString::fromStdString(one.author), QString::fromStdString(one.summary));
    bool taken = false;
    const QString title =
        QInputDialog::getItem(this, tr("A version in git"), tr("Version"), titles, 0, false, &taken);
    if (!taken) return none({});
    const io::GitVersion& one = (*versions)[size_t(titles.indexOf(title))];
    auto then = io::level_in_git(file, one.id, session_.project());
    if (!then) return none(QString::fromStdString(then.error().message));
    compare_with(Version{title, std::move(then->project), std::move(then->level)});
}

void VersionsPage::take_over() {
    const int at = list_->currentRow();
    if (!version_ || at < 0 || size_t(at) >= rows_.size()) return;
    Level next = edit::with_item_as_in(session_.stored_level(), version_->level, rows_[size_t(at)].differs);
    session_.apply(std::move(next), tr("Take over from another version"));
}

void VersionsPage::compare_with(std::optional<Version> version) {
    version_ = std::move(version);
    was_.reset();
    rows_.clear(), list_->clear();
    if (take_over_) take_over_->setEnabled(false);
    answer_->setText(version_
                         ? tr("Both are being looked at…")
                         : tr("Choose a version: what was added, went, moved and changed is drawn as a "
                              "ghost in the views, with the ground won and lost; its route lies over the "
                              "pace strip."));
    if (version_) return ask();
    jobs_.drop();
    request_ = 0;
    if (!session_.studies().version) return;
    Studies studies = session_.studies();
    studies.version.reset();
    session_.set_studies(std::move(studies));
}

void VersionsPage::ask() {
    const auto& now = session_.built().check;
    if (!version_ || !now || !now->complete || !session_.up_to_date()) return;
    request_ = jobs_.ask({*version_, was_, session_.level(), now});
}

void VersionsPage::work(const Job& job, uint64_t number, const Cancel& cancel) {
    auto beside = std::make_shared<Beside>();
    beside->title = job.version.title, beside->level = job.version.level, beside->check = job.was;
    if (!job.was) {
        check::CheckOptions options;
        options.all_spans = true, options.mends = false, options.cancel = cancel;
        beside->check = std::make_shared<const check::CheckResult>(
            check::check_level(job.version.project, job.version.level, options));
    }
    if (cancel.requested() || !beside->check->complete) return;
    beside->difference = study::difference_of(job.version.level, *beside->check, job.level, *job.now);
    beside->likeness = study::likeness_of(*beside->check, *job.now);
    emit found(number, beside);
}

std::vector<VersionsPage::Row> VersionsPage::rows_of(const Beside& beside) const {
    using Kind = study::ItemChange::Kind;
    const Level& level = session_.level();
    const study::VersionDifference& difference = beside.difference;
    std::vector<Row> out;
    for (const auto& claim : difference.checks.claims) {
        const bool holds = claim.now == check::ClaimState::holds;
        const QString text = !claim.was
                                 ? (holds ? tr("New, and holds: %1") : tr("New, and does not hold: %1"))
                             : !claim.now ? tr("No longer claimed: %1")
                             : holds      ? tr("Holds now: %1")
                                          : tr("Held, and does not: %1");
        const Level& of = claim.now ? level : beside.level;
        Row row{text.arg(claim_name(of, claim.id)), holds ? color::sea_green : color::plum, {}, {}};
        for (const Claim& one : of.claims)
            if (const Item* end =
                    one.id == claim.id ? find_item(of, one.to.empty() ? one.from : one.to) : nullptr)
                row.at = box_of(*end).middle();
        out.push_back(std::move(row));
    }
    for (const auto& place : difference.checks.places) {
        const Item* item = find_item(place.now ? level : beside.level, place.item);
        if (!place.was || !place.now || !item) continue; // told among the items
        const bool lost = place.was == check::Reached::yes;
        if (!lost && place.now != check::Reached::yes) continue;
        out.push_back(
            {(lost ? tr("No longer reached: %1") : tr("Reached now: %1")).arg(item_name(level, place.item)),
             lost ? color::plum : color::sea_green,
             box_of(*item).middle(),
             {place.item}});
    }
    for (const study::GroundChange& ground : difference.ground)
        out.push_back({(ground.gained ? tr("Ground won: %1 m²") : tr("Ground lost: %1 m²"))
                           .arg(ground.area_m2, 0, 'f', 1),
                       ground.gained ? color::sea_green : color::plum,
                       ground.at,
                       {}});
    for (const auto& span : difference.checks.spans) {
        const QString text = !span.now                           ? tr("Span gone: %1 wide")
                             : !span.was                         ? tr("New span: %1 wide")
                             : span.now->grade > span.was->grade ? tr("Harder span: %1 wide")
                                                                 : tr("Easier span: %1 wide");
        const check::Span& one = span.now ? *span.now : *span.was;
        out.push_back({text.arg(metres_text(one.gap_m)),
                       span.now ? grade_color(one.grade) : color::plum,
                       (one.from + one.to) * 0.5,
                       {}});
    }
    for (const study::ItemChange& change : difference.items) {
        const QString name = item_name(change.kind == Kind::gone ? beside.level : level, change.item);
        const QString text = change.kind == Kind::gone    ? tr("Gone: %1").arg(name)
                             : change.kind == Kind::added ? tr("Added: %1").arg(name)
                             : change.kind == Kind::moved
                                 ? tr("Moved by %1: %2").arg(metres_text(glm::length(change.by())), name)
                                 : tr("Changed: %1").arg(name);
        const bool gone = change.kind == Kind::gone;
        out.push_back({text,
                       gone                         ? color::plum
                       : change.kind == Kind::added ? color::sea_green
                                                    : color::ink,
                       (gone ? change.was : change.now).middle(),
                       gone ? std::vector<ItemId>{} : std::vector<ItemId>{change.item}, change.item});
    }
    return out;
}

void VersionsPage::take(const std::shared_ptr<const Beside>& beside) {
    was_ = beside->check;
    const int at = list_->currentRow();
    const QSignalBlocker still(list_);
    rows_ = rows_of(*beside);
    list_->clear();
    for (const Row& row : rows_) {
        auto* line = new QListWidgetItem(row.text);
        line->setForeground(row.ink);
        list_->addItem(line);
    }
    list_->setCurrentRow(std::min(at, int(rows_.size()) - 1));
    const int marked = list_->currentRow();
    take_over_->setEnabled(marked >= 0 && !rows_[size_t(marked)].differs.empty());
    double won = 0, lost = 0;
    for (const study::GroundChange& one : beside->difference.ground) (one.gained ? won : lost) += one.area_m2;
    int harder = 0, easier = 0;
    for (const auto& span : beside->difference.checks.spans)
        if (span.was && span.now) ++(span.now->grade > span.was->grade ? harder : easier);
    const size_t changed = beside->difference.items.size();
    answer_->setText(rows_.empty() ? tr("Nothing differs.")
                                   : tr("<b>%1</b> from %2. Ground %3, %4. Spans: %5 harder, %6 easier.")
                                         .arg(counted(int(changed), tr("item differs"), tr("items differ")),
                                              beside->title.toHtmlEscaped(), signed_text(won, 0, tr(" m²")),
                                              signed_text(-lost, 0, tr(" m²")))
                                         .arg(harder)
                                         .arg(easier));
    const study::Likeness& likeness = beside->likeness;
    QString alike = tr("Walls: %1 % of them are still there, %2 % are new.")
                        .arg(likeness.walls_kept * 100, 0, 'f', 0)
                        .arg(likeness.walls_new * 100, 0, 'f', 0);
    if (likeness.routes_alike)
        alike +=
            ' ' + tr("The way: %1 % of it goes where it went.").arg(*likeness.routes_alike * 100, 0, 'f', 0);
    if (!rows_.empty()) answer_->setText(answer_->text() + QStringLiteral("<br>") + alike);
    Studies studies = session_.studies();
    studies.version = beside;
    session_.set_studies(std::move(studies));
}

void VersionsPage::go(int by) {
    if (rows_.empty())
        return emit session_.message(version_ ? tr("Nothing differs")
                                              : tr("Choose a version to compare with"));
    const int count = int(rows_.size()), at = list_->currentRow();
    list_->setCurrentRow(at < 0 ? (by > 0 ? 0 : count - 1) : (at + by + count) % count);
    emit session_.message(tr("%1 of %2: %3")
                              .arg(list_->currentRow() + 1)
                              .arg(count)
                              .arg(rows_[size_t(list_->currentRow())].text));
}

} // namespace rubble::app
