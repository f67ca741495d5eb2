"""The HTTP interface: thin routes over `yantai.work`, described by OpenAPI."""
