#include "parcels/parcel_dialog.h"

#include <algorithm>

#include <QDialogButtonBox>
#include <QFileDialog>
#include <QFileInfo>
#include <QFormLayout>
#include <QHeaderView>
#include <QListWidget>
#include <QLocale>
#include <QSettings>
#include <QVBoxLayout>

#include "numbers.h"
#include "parcels/parcel_keeper.h"

namespace rubble::app {

namespace {

/// The usual ones in the user's language, a project's own as it calls them.
QString name_of(const parcel::ParcelKind& kind) {
    if (kind.about.empty()) return QString::fromStdString(kind.name);
    if (kind.key == "programmer")
        return ParcelDialog::tr("Programmer: geometry with collision, elements, names");
    if (kind.key == "artist")
        return ParcelDialog::tr("Artist: geometry by layer, materials, what is grey, plans");
    return ParcelDialog::tr("Tester: what was checked, on one page, and plans");
}

QString name_of(parcel::Part part) {
    using parcel::Part;
    switch (part) {
    case Part::geometry:
        return ParcelDialog::tr("Geometry, what is met apart");
    case Part::layers:
        return ParcelDialog::tr("Geometry layer by layer");
    case Part::materials:
        return ParcelDialog::tr("Materials and their pictures");
    case Part::tables:
        return ParcelDialog::tr("Elements with their values, and names");
    case Part::tiles:
        return ParcelDialog::tr("Rows of tiles");
    case Part::level:
        return ParcelDialog::tr("The level itself");
    case Part::schemas:
        return ParcelDialog::tr("What its JSON files are made like");
    case Part::grey:
        return ParcelDialog::tr("What is still grey, with sizes");
    case Part::plans:
        return ParcelDialog::tr("Plans by storeys, with dimensions");
    case Part::check:
        return ParcelDialog::tr("All that was found, for machines");
    case Part::players:
        return ParcelDialog::tr("How simulated players fare");
    case Part::page:
        return ParcelDialog::tr("What was checked, on a page and as PDF");
    }
    return {};
}

QString setting(const char* what) { return QStringLiteral("parcel/") + QLatin1String(what); }

} // namespace

ParcelDialog::ParcelDialog(Session& session, std::function<parcel::Pictures()> pictures, QWidget* parent)
    : QDialog(parent),
      session_(session),
      pictures_(std::move(pictures)),
      jobs_([this](const Job& job, uint64_t number, const Cancel& cancel) {
          auto files = parcel::parcel_of(
              job.project, job.level, *job.result, job.kind, cancel,
              [this, number](double part) { emit progressed(number, part); }, job.pictures);
          if (cancel.requested()) return;
          {
              const std::lock_guard lock(guard_);
              made_ = {number, std::move(files)};
          }
          emit madeUp(number);
      }) {
    setWindowTitle(tr("Make a parcel"));
    resize(fontMetrics().averageCharWidth() * 90, fontMetrics().height() * 32);
    auto* column = new QVBoxLayout(this);
    auto* form = new QFormLayout;
    receiver_ = new QComboBox;
    receiver_->setAccessibleName(tr("For"));
    fill_kinds(QSettings().value(setting("receiver")).toString());
    auto* kinds = new QWidget;
    auto* kinds_row = new QHBoxLayout(kinds);
    kinds_row->setContentsMargins(0, 0, 0, 0);
    auto* parts = new QPushButton(tr("What is in it…"));
    parts->setAccessibleName(parts->text());
    parts->setAutoDefault(false);
    kinds_row->addWidget(receiver_, 1), kinds_row->addWidget(parts);
    connect(parts, &QPushButton::clicked, this, &ParcelDialog::change_parts);
    form->addRow(tr("For"), kinds);
    auto* where = new QWidget;
    auto* row = new QHBoxLayout(where);
    row->setContentsMargins(0, 0, 0, 0);
    target_ = new QLineEdit(QSettings().value(setting("target")).toString());
    target_->setAccessibleName(tr("Into"));
    target_->setPlaceholderText(tr("A folder, or a file that ends in .zip"));
    auto* browse = new QPushButton(tr("Choose…"));
    browse->setAccessibleName(tr("Choose where it goes"));
    row->addWidget(target_, 1), row->addWidget(browse);
    form->addRow(tr("Into"), where);
    column->addLayout(form);
    open_ = new QLabel, changes_ = new QLabel;
    open_->setWordWrap(true), changes_->setWordWrap(true);
    column->addWidget(open_);
    must_hold_ = new QCheckBox(tr("None while a claim fails or a blocker is open"));
    must_hold_->setAccessibleName(must_hold_->text());
    must_hold_->setChecked(QSettings().value(setting("must_hold")).toBool());
    column->addWidget(must_hold_);
    on_save_ = new QCheckBox(tr("Make it again each time the level is saved"));
    on_save_->setAccessibleName(on_save_->text());
    on_save_->setChecked(ParcelKeeper::keeps(session_.files().file()));
    on_save_->setEnabled(!session_.files().file().isEmpty());
    column->addWidget(on_save_);
    files_ = new QTreeWidget;
    files_->setAccessibleName(tr("What is in it"));
    files_->setHeaderLabels({tr("File"), tr("Size"), tr("Since the last one")});
    files_->setRootIsDecorated(false);
    files_->header()->setSectionResizeMode(0, QHeaderView::Stretch);
    files_->header()->setStretchLastSection(false);
    column->addWidget(files_, 1);
    column->addWidget(changes_);
    progress_ = new QProgressBar;
    progress_->setAccessibleName(tr("How far it is put together"));
    progress_->setRange(0, 1000);
    column->addWidget(progress_);
    auto* buttons = new QDialogButtonBox(QDialogButtonBox::Cancel);
    make_ = buttons->addButton(tr("Make the parcel"), QDialogButtonBox::AcceptRole);
    column->addWidget(buttons);
    browse->setAutoDefault(false);
    connect(buttons, &QDialogButtonBox::rejected, this, &QDialog::reject);
    connect(buttons, &QDialogButtonBox::accepted, this, &ParcelDialog::write);
    connect(browse, &QPushButton::clicked, this, &ParcelDialog::choose_target);
    connect(receiver_, &QComboBox::currentIndexChanged, this, &ParcelDialog::put_together);
    connect(target_, &QLineEdit::textChanged, this, &ParcelDialog::show_files);
    connect(must_hold_, &QCheckBox::toggled, this, [this] { make_->setEnabled(may_be_made()); });
    connect(
        this, &ParcelDialog::progressed, this,
        [this](quint64 number, double part) {
            if (number == number_) progress_->setValue(int(part * 1000));
        },
        Qt::QueuedConnection);
    connect(this, &ParcelDialog::madeUp, this, &ParcelDialog::show_made, Qt::QueuedConnection);
    put_together();
}

ParcelDialog::~ParcelDialog() { jobs_.drop(); }

void ParcelDialog::fill_kinds(const QString& chosen) {
    const QSignalBlocker block(receiver_);
    receiver_->clear();
    for (const parcel::ParcelKind& kind : parcel::parcel_kinds(session_.project()))
        receiver_->addItem(name_of(kind), QString::fromStdString(kind.key));
    receiver_->setCurrentIndex(std::max(0, receiver_->findData(chosen)));
}

/// Which parts the chosen parcel has, for the project: under its name, or under another as one more.
void ParcelDialog::change_parts() {
    const QString key = receiver_->currentData().toString();
    const auto kind = parcel::parcel_kind(session_.project(), key.toStdString());
    if (!kind) return;
    QDialog ask(this);
    ask.setWindowTitle(tr("What is in the parcel"));
    auto* column = new QVBoxLayout(&ask);
    auto* form = new QFormLayout;
    auto* name = new QLineEdit(name_of(*kind));
    name->setAccessibleName(tr("Who gets it"));
    form->addRow(tr("Who gets it"), name);
    column->addLayout(form);
    auto* list = new QListWidget;
    list->setAccessibleName(tr("Parts"));
    for (const parcel::PartKind& part : parcel::part_kinds()) {
        auto* row = new QListWidgetItem(name_of(part.part), list);
        row->setFlags(row->flags() | Qt::ItemIsUserCheckable);
        const bool has = std::find(kind->parts.begin(), kind->parts.end(), part.part) != kind->parts.end();
        row->setCheckState(has ? Qt::Checked : Qt::Unchecked);
        row->setData(Qt::UserRole, QString::fromLatin1(part.key));
    }
    column->addWidget(list, 1);
    auto* hint = new QLabel(tr("Under another name it is one more parcel of this project."));
    hint->setWordWrap(true);
    hint->setProperty("role", "faint");
    column->addWidget(hint);
    auto* buttons = new QDialogButtonBox(QDialogButtonBox::Ok | QDialogButtonBox::Cancel);
    column->addWidget(buttons);
    connect(buttons, &QDialogButtonBox::accepted, &ask, &QDialog::accept);
    connect(buttons, &QDialogButtonBox::rejected, &ask, &QDialog::reject);
    if (ask.exec() != QDialog::Accepted || name->text().trimmed().isEmpty()) return;
    const bool other = name->text().trimmed() != name_of(*kind);
    ParcelSet set{other ? name->text().trimmed().toLower().simplified().replace(' ', '-').toStdString()
                        : kind->key,
                  other ? name->text().trimmed().toStdString()
                        : (kind->about.empty() ? kind->name : name_of(*kind).toStdString()),
                  {}};
    for (int i = 0; i < list->count(); ++i)
        if (list->item(i)->checkState() == Qt::Checked)
            set.parts.push_back(list->item(i)->data(Qt::UserRole).toString().toStdString());
    Project project = session_.project();
    const auto known = std::find_if(project.parcels.begin(), project.parcels.end(),
                                    [&](const ParcelSet& one) { return one.key == set.key; });
    const QString now = QString::fromStdString(set.key);
    if (known == project.parcels.end())
        project.parcels.push_back(std::move(set));
    else
        *known = std::move(set);
    session_.apply(std::move(project), tr("Parts of a parcel"));
    fill_kinds(now);
    put_together();
}

void ParcelDialog::choose_target() {
    QString path = QFileDialog::getSaveFileName(this, tr("Where the parcel goes"), target_->text(),
                                                tr("Zip (*.zip);;Folder (*)"), nullptr,
                                                QFileDialog::DontConfirmOverwrite);
    if (!path.isEmpty()) target_->setText(path);
}

bool ParcelDialog::may_be_made() const {
    return !shown_.empty() && !target_->text().trimmed().isEmpty() &&
           (is_open_.empty() || !must_hold_->isChecked());
}

void ParcelDialog::put_together() {
    shown_.clear();
    show_files();
    const auto& result = session_.built().check;
    if (!result || !result->complete || !session_.up_to_date()) {
        open_->setText(tr("The level is being checked; open this again in a moment"));
        return;
    }
    is_open_ = parcel::open_in(session_.stored_level(), *result);
    const auto blockers = int(is_open_.blockers.size()), claims = int(is_open_.failing_claims.size());
    QString text = is_open_.empty() ? tr("Nothing is open: every claim holds and there is no blocker")
                                    : tr("Open: %1, %2 that do not hold")
                                          .arg(counted(blockers, tr("blocker"), tr("blockers")),
                                               counted(claims, tr("claim"), tr("claims")));
    QStringList which;
    for (const auto* list : {&is_open_.failing_claims, &is_open_.blockers})
        for (const std::string& one : *list) which << QString::fromStdString(one);
    if (!which.isEmpty()) text += '\n' + which.mid(0, 3).join('\n');
    open_->setText(text);
    const auto kind =
        parcel::parcel_kind(session_.project(), receiver_->currentData().toString().toStdString());
    if (!kind) return;
    const bool read =
        std::find(kind->parts.begin(), kind->parts.end(), parcel::Part::page) != kind->parts.end();
    progress_->setValue(0);
    progress_->show();
    number_ = jobs_.ask({session_.project(), session_.stored_level(), result, *kind,
                         read && pictures_ ? pictures_() : parcel::Pictures{}});
}

void ParcelDialog::show_made() {
    Made made;
    {
        const std::lock_guard lock(guard_);
        if (made_.number != number_ || !made_.files) return;
        made = std::exchange(made_, {});
    }
    progress_->hide();
    if (*made.files)
        shown_ = std::move(**made.files);
    else
        changes_->setText(QString::fromStdString(made.files->error().text()));
    if (!shown_.empty()) show_files();
}

void ParcelDialog::show_files() {
    files_->clear();
    const QString target = target_->text().trimmed();
    const auto changes = target.isEmpty() || shown_.empty()
                             ? std::nullopt
                             : parcel::changes_since(shown_, target.toStdString());
    const auto is_in = [](const std::vector<std::string>& list, const std::string& path) {
        return std::find(list.begin(), list.end(), path) != list.end();
    };
    const QLocale locale;
    for (const auto& [path, bytes] : shown_) {
        QString since;
        if (changes)
            since = is_in(changes->added, path)     ? tr("new")
                    : is_in(changes->changed, path) ? tr("changed")
                                                    : tr("as before");
        auto* row = new QTreeWidgetItem(
            files_, {QString::fromStdString(path), locale.formattedDataSize(qint64(bytes.size())), since});
        row->setTextAlignment(1, Qt::AlignRight);
    }
    if (changes)
        for (const std::string& path : changes->gone)
            new QTreeWidgetItem(files_, {QString::fromStdString(path), {}, tr("gone")});
    changes_->setText(shown_.empty() || target.isEmpty() ? QString()
                      : !changes                         ? tr("No parcel is there yet")
                      : changes->empty() ? tr("Nothing changed since the parcel that is there")
                                         : tr("%1 new, %2 changed, %3 gone since the parcel that is there")
                                               .arg(changes->added.size())
                                               .arg(changes->changed.size())
                                               .arg(changes->gone.size()));
    for (int column : {1, 2}) files_->resizeColumnToContents(column);
    make_->setEnabled(may_be_made());
}

void ParcelDialog::write() {
    if (!may_be_made()) return;
    const QString target = target_->text().trimmed();
    const auto done = parcel::write_parcel(shown_, target.toStdString());
    if (!done) return changes_->setText(QString::fromStdString(done.error().text()));
    QSettings settings;
    settings.setValue(setting("receiver"), receiver_->currentData());
    settings.setValue(setting("target"), target);
    settings.setValue(setting("must_hold"), must_hold_->isChecked());
    ParcelKeeper::keep(session_.files().file(),
                       on_save_->isChecked()
                           ? std::optional(ParcelKeeper::Kept{receiver_->currentData().toString(), target,
                                                              must_hold_->isChecked()})
                           : std::nullopt);
    written_ = target;
    accept();
}

} // namespace rubble::app
