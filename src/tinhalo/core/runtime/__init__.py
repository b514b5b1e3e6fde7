"""What computations run on: processes of their own, giving up, compiled functions, a memo of results."""
