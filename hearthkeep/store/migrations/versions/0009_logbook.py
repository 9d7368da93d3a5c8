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


def downgrade() -> None:
    op.drop_table("log_entries")
    op.drop_table("installations")
