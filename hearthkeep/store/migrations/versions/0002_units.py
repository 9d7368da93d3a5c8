"""The equipment library."""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects import postgresql

revision = "0002"
down_revision = "0001"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.create_table(
        "units",
        sa.Column("kind", sa.String(20), primary_key=True),
        sa.Column("id", sa.String(40), primary_key=True),
        sa.Column("name", sa.String(120), nullable=False),
        sa.Column("words", sa.String(400), nullable=False),
        sa.Column("sheet", postgresql.JSONB(), nullable=False),
    )
    op.create_index("units_by_name", "units", ["kind", "name"])


def downgrade() -> None:
    op.drop_table("units")
