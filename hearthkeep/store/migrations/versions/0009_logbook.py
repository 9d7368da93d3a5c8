"""What is built from a design, and its log: entries that are added and never changed."""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects.postgresql import JSONB

revision = "0009"
down_revision = "0008"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.create_table(
        "installations",
        sa.Column("id", sa.Uuid(), primary_key=True),
        sa.Column("design_id", sa.Uuid(), sa.ForeignKey("designs.id", ondelete="CASCADE"), nullable=False),
        sa.Column("name", sa.String(200), nullable=False),
        sa.Column("begun_at", sa.DateTime(timezone=True), server_default=sa.func.now(), nullable=False),
    )
    op.create_index("installations_design", "installations", ["design_id", "begun_at"])
    op.create_table(
        "log_entries",
        sa.Column("id", sa.Uuid(), primary_key=True),
        sa.Column("installation_id", sa.Uuid(), sa.ForeignKey("installations.id", ondelete="CASCADE"), nullable=False),
        sa.Column("kind", sa.String(20), nullable=False),
        sa.Column("at", sa.DateTime(timezone=True), nullable=False),
        sa.Column("told_at", sa.DateTime(timezone=True), nullable=False),
        sa.Column("received_at", sa.DateTime(timezone=True), server_default=sa.func.clock_timestamp(), nullable=False),
        sa.Column("who", sa.String(200), server_default="", nullable=False),
        sa.Column("body", JSONB(), nullable=False),
        sa.Column("strikes", sa.Uuid()),
    )
    op.create_index("log_entries_by_time", "log_entries", ["installation_id", "at"])
    op.create_index("log_entries_by_kind", "log_entries", ["installation_id", "kind", "at"])
    op.create_table(
        "log_imports",
        sa.Column("id", sa.Uuid(), primary_key=True),
        sa.Column("installation_id", sa.Uuid(), sa.ForeignKey("installations.id", ondelete="CASCADE"), nullable=False),
        sa.Column("name", sa.String(200), nullable=False),
        sa.Column("header", sa.String(32), nullable=False),
        sa.Column("uses", JSONB(), nullable=False),
        sa.Column("added", sa.Integer(), nullable=False),
        sa.Column("known", sa.Integer(), nullable=False),
        sa.Column("taken_at", sa.DateTime(timezone=True), server_default=sa.func.clock_timestamp(), nullable=False),
    )
    op.create_index("log_imports_header", "log_imports", ["installation_id", "header", "taken_at"])
    op.create_table(
        "series",
        sa.Column("id", sa.Integer(), primary_key=True, autoincrement=False),
        sa.Column("installation_id", sa.Uuid(), sa.ForeignKey("installations.id", ondelete="CASCADE"), nullable=False),
        sa.Column("quantity", sa.String(30), nullable=False),
        sa.Column("part", sa.String(200), server_default="", nullable=False),
        sa.UniqueConstraint("installation_id", "quantity", "part", name="series_of_installation"),
    )
    op.create_table(
        "readings",
        # No foreign key: looking it up for each of a hundred thousand rows takes longer than the rows, and no series is ever deleted.
        sa.Column("series_id", sa.Integer(), primary_key=True, autoincrement=False),
        sa.Column("at", sa.DateTime(timezone=True), primary_key=True),
        sa.Column("value", sa.Float(), nullable=False),
    )


def downgrade() -> None:
    op.drop_table("readings")
    op.drop_table("series")
    op.drop_table("log_imports")
    op.drop_table("log_entries")
    op.drop_table("installations")
